<script setup lang="ts">
import type { LetterLine } from '@emporikon/contract/letters';
import RecordTable from '../kit/RecordTable.vue';
import type { Column } from '../kit/table/columns';
import { api } from '../shell/api';
import { clock, day, nameList } from '../shell/format';
import { reloadOn, usePaged } from '../shell/usePaged';
import { useQueryRef } from '../shell/useQueryRef';
import { lettersOutcome } from './outcomes';
import WriteButton from './WriteButton.vue';

/** My letters: drafts, those on their way, those that were sent and what became of them. */
const state = useQueryRef<LetterLine['state'] | ''>('state', '');
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) => api('GET /api/letters', { query: { state: state.value || undefined, cursor, limit: 60 } }),
  ['letters', 'letter_recipients'],
);
reloadOn(() => [state.value], reload);
const STATES = [
  { value: '', title: 'All letters' },
  { value: 'draft', title: 'Drafts' },
  { value: 'waiting', title: 'On their way' },
  { value: 'sent', title: 'Sent' },
  { value: 'failed', title: 'Not sent' },
];
const COLUMNS: Column[] = [
  { key: 'subject', title: 'Letter', width: 40, isName: true },
  { key: 'to', title: 'To', width: 22, onPhone: true },
  { key: 'state', title: 'State', width: 22, onPhone: true },
  { key: 'at', title: 'When', width: 16 },
];
const at = (iso: string | null): string => (iso ? `${day(iso)} ${clock(iso)}` : '');
const when = (one: LetterLine): string => at(one.sentAt ?? one.leavesAt ?? one.updatedAt);
function stateWords(one: LetterLine): string {
  if (one.state === 'draft') return 'Draft';
  if (one.state === 'waiting') return 'On its way';
  if (one.state === 'failed') return 'Not sent';
  return lettersOutcome(one.recipients) || 'Sent';
}
const toWords = (one: LetterLine): string =>
  nameList(one.recipients.slice(0, 3).map(({ name, address }) => name || address)) || 'Nobody yet';
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Letters</h1>
      <WriteButton class="right" is-main :letter="{}">Write a letter</WriteButton>
    </div>
    <RecordTable
      name="letters"
      label="Letters"
      :columns="COLUMNS"
      :rows="items"
      :error="error"
      :has-more="hasMore"
      :name-of="(row) => row.subject || 'No subject'"
      :to="(row) => `/letters/${row.id}`"
      @more="more"
      @retry="reload"
    >
      <template #tools>
        <v-select v-model="state" class="inline-edit tool" aria-label="Which letters" :items="STATES" />
      </template>
      <template #cell-subject="{ row }">
        <RouterLink :to="`/letters/${row.id}`"
          ><b>{{ row.subject || 'No subject' }}</b></RouterLink
        >
        <span class="soft beginning">{{ row.beginning }}</span>
      </template>
      <template #cell-to="{ row }">{{ toWords(row) }}</template>
      <template #cell-state="{ row }"
        ><span :class="{ wrong: row.state === 'failed' }" :title="row.trouble || undefined">{{
          stateWords(row)
        }}</span></template
      >
      <template #cell-at="{ row }"
        ><span class="soft">{{ when(row) }}</span></template
      >
      <template #empty>
        <p class="empty">
          {{
            state
              ? 'No letters in this state.'
              : 'No letters yet. Write one here, on the page of a person, or as a reply in Arrivals.'
          }}
        </p>
      </template>
    </RecordTable>
  </div>
</template>

<style scoped>
.right {
  margin-left: auto;
}
.tool {
  width: 160px;
}
.beginning {
  margin-left: 10px;
}
</style>
