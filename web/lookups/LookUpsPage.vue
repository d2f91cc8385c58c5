<script setup lang="ts">
import PageHead from '../kit/PageHead.vue';
import type { LookUpRules } from '@emporikon/contract/lookups';
import { computed } from 'vue';
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import { usePaged } from '../shell/usePaged';
import { price } from './money';

const TABLES = ['look_up_rules', 'look_up_sources', 'look_up_runs', 'claims'];
const { data: rules } = useFetched(() => api('GET /api/look-ups/rules'), TABLES);
const { items, hasMore, more, error } = usePaged(
  (cursor) => api('GET /api/look-ups', { query: { cursor, limit: 60 } }),
  TABLES,
);
const isReady = computed(() => rules.value && (items.value ?? error.value));
const cost = (minor: number, of: LookUpRules): string => price(minor, of.currency);
</script>

<template>
  <div class="page">
    <PageHead title="Look-up history">
      <span v-if="rules" class="soft"
        >{{ cost(rules.spent, rules) }} of {{ cost(rules.allowance, rules) }} spent this month,
        {{ cost(rules.spentByMe, rules) }} by you</span
      >
      <RouterLink class="word" to="/settings/look-ups">Allowance and sources</RouterLink>
    </PageHead>
    <template v-if="!isReady"><span v-for="n in 12" :key="n" class="ghost"></span></template>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <div
      v-if="items?.length && rules && isReady"
      class="scroll"
      tabindex="0"
      role="region"
      aria-label="Look-ups"
    >
      <v-table class="book">
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
                >No answer</span
              ><span v-else-if="one.state === 'asking'" class="soft">Asking …</span
              ><span v-else class="late">{{ one.trouble }}</span>
            </td>
            <td class="wide soft">{{ one.by?.name ?? 'Automatic' }}</td>
            <td class="num">{{ cost(one.price, rules) }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-else-if="items && isReady" class="empty">No look-ups yet.</p>
    <v-btn v-if="hasMore" class="word" @click="more">More</v-btn>
  </div>
</template>
