<script setup lang="ts">
import type { Token } from '@emporikon/contract/session';
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { day } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Access tokens, for the clipper and for scripts. */
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/tokens'), []);
const name = ref('');
const made = ref('');
const RIGHTS: { value: Token['rights']; title: string }[] = [
  { value: 'all', title: 'Do all that I may' },
  { value: 'read', title: 'Only read' },
  { value: 'capture', title: 'Only hand in captures' },
];
const rights = ref<Token['rights']>('all');
const ENDS = [
  { value: null, title: 'Never' },
  { value: 30, title: 'In 30 days' },
  { value: 90, title: 'In 90 days' },
  { value: 365, title: 'In a year' },
];
const days = ref<number | null>(null);
const isOver = ({ expiresAt }: Token): boolean => expiresAt !== null && Date.parse(expiresAt) <= Date.now();

async function make(): Promise<void> {
  try {
    made.value = (
      await api('POST /api/tokens', { body: { name: name.value, rights: rights.value, days: days.value } })
    ).token;
    name.value = '';
    await load();
  } catch (error) {
    undo.fail(error);
  }
}

async function revoke(id: string, of: string): Promise<void> {
  try {
    await api('DELETE /api/tokens/:id', { params: { id } });
    undo.tell({ text: `${of} no longer works.`, eventId: null });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <PageHead
    title="Clipper and tokens"
    help="The clipper reads the web page you are on. Load the folder clipper/ as an unpacked extension in your browser and give it an access token. Scripts send the token as “Authorization: Bearer …”; a token that may do everything can do what you can."
  />
  <v-table v-if="data?.items.length" class="book">
    <thead>
      <tr>
        <th>Token</th>
        <th>May</th>
        <th>Made</th>
        <th>Last used</th>
        <th>Ends</th>
        <th><span class="visually-hidden">Revoke</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="token in data.items" :key="token.id">
        <td>
          <b>{{ token.name }}</b>
        </td>
        <td>{{ RIGHTS.find(({ value }) => value === token.rights)?.title }}</td>
        <td class="soft">{{ day(token.createdAt) }}</td>
        <td class="soft">{{ token.lastUsedAt ? day(token.lastUsedAt) : 'Never' }}</td>
        <td class="soft" :class="{ late: isOver(token) }">
          {{ token.expiresAt ? day(token.expiresAt) : 'Never' }}
        </td>
        <td>
          <v-btn class="word" :aria-label="`Revoke ${token.name}`" @click="revoke(token.id, token.name)">
            Revoke
          </v-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
  <p v-if="made" role="status">
    Copy the token now. It is not shown again:<br /><code class="token">{{ made }}</code>
  </p>
  <form v-if="data" class="make" @submit.prevent="make">
    <v-text-field v-model="name" label="What is it for?" required maxlength="80" placeholder="Clipper" />
    <v-select v-model="rights" label="It may" :items="RIGHTS" />
    <v-select v-model="days" label="Ends" :items="ENDS" />
    <v-btn class="fill" type="submit">Make a token</v-btn>
  </form>
</template>

<style scoped>
.make {
  display: flex;
  gap: 10px;
  align-items: end;
  flex-wrap: wrap;
  max-width: 780px;
  padding-top: 12px;
}
.token {
  overflow-wrap: anywhere;
  background: var(--lit);
}
</style>
