<script setup lang="ts">
import type { FoundRecord } from '@emporikon/contract/queries';
import { computed, ref } from 'vue';
import { vFocus } from '../kit/focus';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import type { ViewedKind } from './kinds';

/** A record as a card: the fields that its view shows, and a line to answer in without opening it. */
const props = defineProps<{
  kind: ViewedKind;
  row: FoundRecord;
  name: string;
  to: string;
  /** Captions and values; those without a value are left out. */
  shown: readonly { key: string; title: string; text: string }[];
}>();
const ABOUT: Partial<Record<ViewedKind, string>> = {
  ...{ person: 'personId', company: 'companyId', lead: 'leadId', deal: 'dealId' },
  ...{ project: 'projectId', case: 'caseId' },
};
const undo = useUndo();
const about = computed(() => ABOUT[props.kind] ?? null);
const isWriting = ref(false);
const line = ref('');
const isBusy = ref(false);
async function write(): Promise<void> {
  if (!line.value.trim() || isBusy.value || !about.value) return;
  isBusy.value = true;
  try {
    const { eventId, saved } = await api('POST /api/ledger', {
      body: { line: line.value.trim(), about: { [about.value]: props.row.id } },
    });
    undo.tell({ text: `${props.name}: ${saved.join(', ') || 'saved'}`, eventId });
    line.value = '';
    isWriting.value = false;
  } catch (problem) {
    undo.fail(problem);
  }
  isBusy.value = false;
}
</script>

<template>
  <article class="card" :data-card="row.id" :aria-label="name">
    <RouterLink v-if="to" :to="to" draggable="false"
      ><b>{{ name }}</b></RouterLink
    >
    <b v-else>{{ name }}</b>
    <dl>
      <template v-for="one in shown" :key="one.key">
        <dt class="soft">{{ one.title }}</dt>
        <dd>{{ one.text }}</dd>
      </template>
    </dl>
    <div class="foot">
      <slot />
      <v-btn v-if="about && !isWriting" class="word" @click="isWriting = true">Write …</v-btn>
    </div>
    <form v-if="isWriting" @submit.prevent="write" @keydown.esc.stop="isWriting = false">
      <v-text-field
        v-model="line"
        v-focus
        :aria-label="`Write about ${name}`"
        placeholder="Note, call or next move: call Thursday 11am"
        maxlength="2000"
        autocomplete="off"
        :loading="isBusy"
      />
    </form>
  </article>
</template>

<style scoped>
.card {
  display: grid;
  gap: 4px;
  align-content: start;
  padding: 10px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 1px 10px;
  margin: 0;
  font-size: 13px;
}
dd {
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.foot {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
}
</style>
