<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { day, due, percent } from '../shell/format';
import SelectionBar from '../lookups/SelectionBar.vue';
import { useSession } from '../shell/session';
import TickAll from '../shell/TickAll.vue';
import { usePaged } from '../shell/usePaged';

const session = useSession();
const mine = ref(false);
const sort = ref<'status' | 'chance'>('chance');
const ticked = ref<string[]>([]);
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/leads', {
      query: { cursor, limit: 100, sort: sort.value, owner: mine.value ? session.me?.id : undefined },
    }),
  ['leads', 'tasks', 'people', 'companies', 'lead_scores'],
);
watch([mine, sort], reload);
const without = computed(
  () =>
    (items.value ?? []).filter(
      (lead) => !lead.nextMove && ['new', 'working', 'qualified'].includes(lead.status),
    ).length,
);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Leads</h1>
      <span v-if="without" class="late">{{ without }} without a next move</span>
      <RouterLink class="word" to="/qualifying">How they are judged</RouterLink>
      <span class="whose"
        ><button class="word" :aria-pressed="sort === 'chance'" @click="sort = 'chance'">
          likeliest first
        </button>
        <button class="word" :aria-pressed="sort === 'status'" @click="sort = 'status'">
          by status
        </button></span
      >
      <span class="owner"
        ><button class="word" :aria-pressed="mine" @click="mine = true">mine</button>
        <button class="word" :aria-pressed="!mine" @click="mine = false">the team’s</button></span
      >
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="items?.length" class="book">
      <thead>
        <tr>
          <TickAll v-model="ticked" :ids="items.map((one) => one.id)" />
          <th>Lead</th>
          <th>Who</th>
          <th class="wide">Status</th>
          <th>Next move</th>
          <th class="num">Chance</th>
          <th class="wide num">Fit</th>
          <th class="wide num">Warmth</th>
          <th class="wide">Owner</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="lead in items" :key="lead.id">
          <td class="tickbox">
            <input v-model="ticked" type="checkbox" :value="lead.id" :aria-label="`Tick ${lead.title}`" />
          </td>
          <td>
            <RouterLink :to="`/leads/${lead.id}`"
              ><b>{{ lead.title }}</b></RouterLink
            >
          </td>
          <td>
            <RouterLink :to="`/people/${lead.person.id}`" class="quiet-link">{{
              lead.person.name
            }}</RouterLink><template v-if="lead.company"
              >, <span class="soft">{{ lead.company.name }}</span></template
            >
          </td>
          <td class="wide">
            {{ lead.status }} <span class="soft">since {{ day(lead.statusSince) }}</span>
          </td>
          <td>
            <template v-if="lead.nextMove"
              >{{ lead.nextMove.title }},
              <span :class="{ late: lead.nextMove.state === 'overdue' }">{{
                due(lead.nextMove)
              }}</span></template
            ><span v-else-if="['new', 'working', 'qualified'].includes(lead.status)" class="late"
              >none set</span
            >
          </td>
          <td class="num">{{ lead.scores ? percent(lead.scores.chance) : '' }}</td>
          <td class="wide num">{{ lead.scores?.fit ?? '' }}</td>
          <td class="wide num">{{ lead.scores?.warmth ?? '' }}</td>
          <td class="wide soft">{{ lead.owner.name }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="items" class="empty">No leads yet. Filing a message from Arrivals makes one.</p>
    <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
    <button v-if="hasMore" class="word" @click="more">More</button>
    <SelectionBar :leads="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>

<style scoped>
.whose {
  margin-left: auto;
}
.owner {
  margin-left: 0;
}
</style>
