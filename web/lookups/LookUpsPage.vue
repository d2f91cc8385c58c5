<script setup lang="ts">
import type { LookUpRules } from '@emporikon/contract/lookups';
import { computed } from 'vue';
import { api } from '../shell/api';
import { clock, day, percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { usePaged } from '../shell/usePaged';
import { price } from './money';
import RulesForm from './RulesForm.vue';

const session = useSession();
const undo = useUndo();
const TABLES = ['look_up_rules', 'look_up_sources', 'look_up_runs', 'claims'];
const { data: rules, load: loadRules } = useFetched(() => api('GET /api/look-ups/rules'), TABLES);
const { data: sources, load: loadSources } = useFetched(() => api('GET /api/look-ups/sources'), TABLES);
const { items, hasMore, more, error } = usePaged(
  (cursor) => api('GET /api/look-ups', { query: { cursor, limit: 60 } }),
  TABLES,
);
const isReady = computed(() => rules.value && sources.value && (items.value ?? error.value));
const mayEdit = computed(() => session.me?.role !== 'rep');
const cost = (minor: number, of: LookUpRules): string => price(minor, of.currency);

async function turn(key: string, active: boolean): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/look-ups/sources/:key', { params: { key }, body: { active } });
    undo.tell({ text: active ? 'Asked again.' : 'Not asked any more.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await loadSources();
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Look-ups</h1>
      <span v-if="rules" class="soft"
        >{{ cost(rules.spent, rules) }} of {{ cost(rules.allowance, rules) }} spent this month,
        {{ cost(rules.spentByMe, rules) }} by you</span
      >
    </div>
    <template v-if="!isReady"><span v-for="n in 12" :key="n" class="ghost"></span></template>
    <div v-show="isReady" class="halves">
      <section>
        <h2>Sources</h2>
        <div class="scroll">
          <table v-if="sources?.items.length && rules" class="book">
            <thead>
              <tr>
                <th>Source</th>
                <th class="num">Price</th>
                <th class="num">Asked</th>
                <th class="num">Kept</th>
                <th class="wide">How often it knows</th>
                <th><span class="d-sr-only">On or off</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in sources.items" :key="one.key">
                <td>
                  <b>{{ one.label }}</b>
                  <div v-if="one.restsUntil" class="late">
                    {{ one.trouble }}; left alone until {{ clock(one.restsUntil) }}
                  </div>
                </td>
                <td class="num">
                  {{ cost(one.price, rules) }}
                  <div class="soft">a {{ one.charges === 'finds' ? 'find' : 'question' }}</div>
                </td>
                <td class="num">{{ one.asked }}</td>
                <td class="num">
                  {{ percent(one.keptShare) }}
                  <div class="soft">{{ one.kept }} of {{ one.decided }}</div>
                </td>
                <td class="wide soft">
                  {{
                    one.fields
                      .slice(0, 4)
                      .map((field) => `${field.field.toLowerCase()} ${percent(field.coverage)}`)
                      .join(', ')
                  }}
                </td>
                <td>
                  <button
                    v-if="mayEdit"
                    class="word"
                    :aria-label="`${one.active ? 'Turn off' : 'Turn on'} ${one.label}`"
                    @click="turn(one.key, !one.active)"
                  >
                    {{ one.active ? 'turn off' : 'turn on' }}</button><span
                    v-else-if="!one.active"
                    class="soft"
                    >off</span
                  >
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else-if="sources" class="empty">
            No source is set up. Likely addresses, country and time zone are worked out all the same.
          </p>
          <template v-else><span v-for="n in 3" :key="n" class="ghost"></span></template>
        </div>
      </section>
      <RulesForm v-if="rules" :rules="rules" :may-edit="mayEdit" @changed="loadRules" />
      <section v-else><span v-for="n in 4" :key="n" class="ghost"></span></section>
    </div>
    <h2 v-show="isReady" class="log">What was asked</h2>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <div v-if="items?.length && rules && isReady" class="scroll">
      <table class="book">
        <thead>
          <tr>
            <th>When</th>
            <th>About</th>
            <th>Source</th>
            <th class="wide">Answer</th>
            <th class="wide">By</th>
            <th class="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in items" :key="one.id">
            <td class="soft">{{ day(one.at) }} {{ clock(one.at) }}</td>
            <td>
              <RouterLink v-if="one.person" :to="`/people/${one.person.id}`">{{
                one.person.name
              }}</RouterLink><RouterLink v-else-if="one.company" :to="`/companies/${one.company.id}`">{{
                one.company.name
              }}</RouterLink
              ><span v-else class="soft">{{ Object.values(one.question).filter(Boolean).join(', ') }}</span>
            </td>
            <td>{{ one.source }}</td>
            <td class="wide">
              <span v-if="one.state === 'found'">{{ one.told.join(', ').toLowerCase() }}</span><span
                v-else-if="one.state === 'nothing'"
                class="soft"
                >knows nothing</span
              ><span v-else-if="one.state === 'asking'" class="soft">being asked …</span
              ><span v-else class="late">{{ one.trouble }}</span>
            </td>
            <td class="wide soft">{{ one.by?.name ?? 'by itself' }}</td>
            <td class="num">{{ cost(one.price, rules) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else-if="items && isReady" class="empty">Nothing was asked yet.</p>
    <button v-if="hasMore" class="word" @click="more">More</button>
  </div>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 20px 36px;
}
.log {
  margin-top: 20px;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
