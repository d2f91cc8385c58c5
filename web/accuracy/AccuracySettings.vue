<script setup lang="ts">
import type { FieldAccuracy } from '@emporikon/contract/accuracy';
import { computed } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { counted, day, fieldName, percent, plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** How often what was read was filed as it was, by kind, field and the confidence it was shown with. */
const session = useSession();
const undo = useUndo();
const { data, load, error } = useFetched(() => api('GET /api/reading-accuracy'), []);
const COUNTING_TAKES = 3000;
const KINDS: Record<FieldAccuracy['kind'], string> = {
  email: 'Mails',
  text: 'Pasted texts',
  page: 'Web pages',
  call: 'Calls',
  form: 'Forms',
  card: 'Cards',
  row: 'Rows of tables',
};

const kinds = computed(() => [...new Set((data.value?.items ?? []).map(({ kind }) => kind))]);
const of = (kind: FieldAccuracy['kind']): FieldAccuracy[] =>
  (data.value?.items ?? []).filter((item) => item.kind === kind);
const decided = ({ right, wrong }: FieldAccuracy): number => right + wrong;
/** What is shown with so much is what people rely on without looking. */
const SURE = 0.9;
function shareRight({ bins: all }: FieldAccuracy, isSure: boolean): string {
  const bins = all.filter(({ from }) => from >= SURE === isSure);
  const count = bins.reduce((sum, bin) => sum + bin.decided, 0);
  const right = bins.reduce((sum, bin) => sum + bin.right, 0);
  return count ? `${percent(right / count)} of ${plainNumber(count)}` : '–';
}

async function fit(): Promise<void> {
  try {
    await api('POST /api/reading-accuracy/fitting');
    undo.tell({ text: 'Counting has started.', eventId: null });
    setTimeout(() => void load(), COUNTING_TAKES);
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <PageHead
    title="Reading accuracy"
    help="How often the facts read from mails, pages, notes and forms were filed as they were read. Corrections and refusals in Arrivals count as wrong. With 20 or more decisions about a field, its confidence follows them."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <template v-else-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <template v-else>
    <p v-if="!data.madeAt" class="empty">
      Nothing has been counted yet. It is counted every night, from what you file in Arrivals.
    </p>
    <p v-else-if="!data.items.length" class="empty">No captures have been filed yet.</p>
    <p v-else class="soft">
      Counted {{ day(data.madeAt) }} from {{ counted(data.captures, 'filed capture') }}, the newest first.
      None of this leaves your organisation.
    </p>
    <section v-for="kind in kinds" :key="kind">
      <h2>{{ KINDS[kind] }}</h2>
      <v-table class="book">
        <thead>
          <tr>
            <th>Fact</th>
            <th class="num">Right</th>
            <th class="num">Decided</th>
            <th class="num">Given 90% or more</th>
            <th class="num">Given less</th>
            <th class="num">Added by hand</th>
            <th>Confidence</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in of(kind)" :key="item.field">
            <td>{{ fieldName(item.field) }}</td>
            <td class="num">{{ decided(item) ? percent(item.right / decided(item)) : '–' }}</td>
            <td class="num">{{ plainNumber(decided(item)) }}</td>
            <td class="num">{{ shareRight(item, true) }}</td>
            <td class="num">{{ shareRight(item, false) }}</td>
            <td class="num">{{ item.missed ? plainNumber(item.missed) : '–' }}</td>
            <td class="soft">{{ item.isFitted ? 'Follows your decisions' : 'Standard' }}</td>
          </tr>
        </tbody>
      </v-table>
    </section>
    <v-btn v-if="session.may('settings.scoring')" class="quiet first" @click="fit">Count again now</v-btn>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
section {
  margin-top: 14px;
}
.first {
  margin-top: 14px;
}
</style>
