<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import { computed, ref, shallowRef } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api, wordsOf } from '../shell/api';
import { fullDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import KeepingRow from './KeepingRow.vue';
import { goneLines, reasonWords } from './words';

/** How long personal data is kept, and who was erased when: not whom. */
const session = useSession();
const { data, error, load } = useFetched(() => api('GET /api/keeping-times'), ['keeping_times']);
const erased = shallowRef<Reply<'GET /api/erasures'>['items'] | null>(null);
const next = ref<string | null>(null);
const trouble = ref('');
/** Both parts come at once, so that nothing moves. */
const isThere = computed(
  () =>
    data.value !== null && (!session.may('people.delete') || erased.value !== null || trouble.value !== ''),
);
const mayChange = computed(() => session.may('settings.data'));

async function more(): Promise<void> {
  try {
    const page = await api('GET /api/erasures', { query: next.value ? { cursor: next.value } : {} });
    erased.value = [...(erased.value ?? []), ...page.items];
    next.value = page.next;
  } catch (problem) {
    trouble.value = wordsOf(problem);
  }
}
if (session.may('people.delete')) void more();
</script>

<template>
  <PageHead
    title="Privacy"
    help="How long data about people is kept. What is over its time goes at night, for good. Whoever asks what you know about them, or to be forgotten: open their page, More…, Data about them."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <div v-if="isThere && data" class="times">
    <KeepingRow
      v-for="time in data.items"
      :key="time.kind"
      :time="time"
      :may-preview="session.may('people.delete')"
      :may-change="mayChange"
      @saved="load"
    />
    <p v-if="!mayChange" class="soft">Only an admin can change these.</p>
  </div>
  <template v-else-if="!error"><span v-for="n in 5" :key="n" class="ghost"></span></template>
  <template v-if="isThere && session.may('people.delete')">
    <h2 class="cap">Erased</h2>
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
    <p v-else-if="!erased?.length" class="empty">Nobody has been erased yet.</p>
    <v-table v-else class="book">
      <thead>
        <tr>
          <th>When</th>
          <th>By</th>
          <th>Why</th>
          <th>What went</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in erased" :key="one.id">
          <td>{{ fullDay(one.at.slice(0, 10)) }}</td>
          <td>{{ one.by?.name ?? 'Automatically' }}</td>
          <td>{{ reasonWords(one) }}</td>
          <td>{{ goneLines(one.counts).join(' · ') || 'Name and fields' }}</td>
        </tr>
      </tbody>
    </v-table>
    <v-btn v-if="next" class="word" @click="more">Show more</v-btn>
  </template>
</template>

<style scoped>
.times {
  max-width: 760px;
}
h2 {
  margin: 26px 0 6px;
}
</style>
