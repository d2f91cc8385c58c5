<script setup lang="ts">
import type { Export } from '@emporikon/contract/exports';
import { FORMAT_NAMES } from '@emporikon/core/outgoing/formats';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { fileSize, plainNumber, when } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { fileOf, useExports } from './useExports';

/** The files somebody had made of views. */
const exports = useExports();
const session = useSession();
const { data, error, load } = useFetched(() => api('GET /api/exports'), ['exports']);
const stateOf = ({ state, done, total, size, expiresAt, trouble }: Export): string => {
  if (state === 'running') return `under way, ${plainNumber(done)} of ${plainNumber(total)}`;
  if (state === 'failed') return trouble;
  return `${plainNumber(total)} records, ${fileSize(size)}, kept until ${when(expiresAt)}`;
};
async function remove(one: Export): Promise<void> {
  await exports.remove(one);
  await load();
}
</script>

<template>
  <PageHead
    title="Exports"
    help="Files made of what a view shows. Large ones are made in the background, and each is kept for a day. Only you can open yours."
  />
  <p v-if="error" class="wrong" role="alert">
    {{ error }} <v-btn class="word" @click="load">Try again</v-btn>
  </p>
  <template v-if="data">
    <p v-if="!data.items.length" class="empty">
      Nothing yet. Open a view and choose Export above its records.
    </p>
    <section v-for="one in data.items" :key="one.id" class="export" :aria-label="one.label">
      <div>
        <b>{{ one.label }}</b> · {{ FORMAT_NAMES[one.format].name }}
        <div class="soft">{{ when(one.createdAt) }} · {{ stateOf(one) }}</div>
      </div>
      <div class="do">
        <v-btn v-if="one.state === 'done'" class="quiet" :href="fileOf(one)" download>Download</v-btn>
        <v-btn class="word" :aria-label="`Delete ${one.label}`" @click="remove(one)">{{
          one.state === 'running' ? 'Stop' : 'Delete'
        }}</v-btn>
      </div>
    </section>
  </template>
  <section v-if="session.me?.role === 'admin'" class="everything">
    <h2>Everything in one archive</h2>
    <p>
      Whoever runs the server can write all records, files and settings into one archive in open formats, with
      a checksum for each file, and bring it back into an empty database:
    </p>
    <code>npx emporikon archive everything.tar.gz</code>
    <code>npx emporikon unarchive everything.tar.gz</code>
  </section>
</template>

<style scoped>
.everything {
  display: grid;
  gap: 8px;
  max-width: 680px;
  margin-top: 28px;
}
.everything p {
  margin: 0;
}
.export {
  display: flex;
  gap: 16px;
  justify-content: space-between;
  align-items: start;
  max-width: 860px;
  padding: 10px 0;
  border-top: 1px solid var(--rule2);
}
.do {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>
