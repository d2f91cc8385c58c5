<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import SelectionBar from '../lookups/SelectionBar.vue';
import { useFetched } from '../shell/live';
import TickAll from '../shell/TickAll.vue';
import { usePaged } from '../shell/usePaged';

const q = ref('');
const narrowed = ref({ industry: '', country: '', technology: '', atLeast: '' });
const ticked = ref<string[]>([]);
const { data: kinds } = useFetched(() => api('GET /api/companies/kinds'), ['companies']);
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/companies', {
      query: {
        cursor,
        q: q.value,
        industry: narrowed.value.industry || undefined,
        country: narrowed.value.country || undefined,
        technology: narrowed.value.technology || undefined,
        atLeast: narrowed.value.atLeast || undefined,
        limit: 60,
      },
    }),
  ['people', 'companies', 'deals'],
);
const NO_KINDS = { industries: [], countries: [], technologies: [] };
const shown = computed(() => kinds.value ?? NO_KINDS);
const SIZES = [10, 50, 250, 1000];
let timer: ReturnType<typeof setTimeout> | undefined;
watch(
  [q, narrowed],
  () => {
    clearTimeout(timer);
    timer = setTimeout(() => void reload(), 120);
  },
  { deep: true },
);
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Companies</h1>
      <input
        v-model="q"
        type="search"
        class="inline-edit narrow"
        placeholder="narrow by name"
        aria-label="Narrow by name"
      />
      <template v-if="shown">
        <select
          v-for="[field, label, options] in [
            ['industry', 'any industry', shown.industries],
            ['country', 'any country', shown.countries],
            ['technology', 'any technology', shown.technologies],
          ] as const"
          :key="field"
          v-model="narrowed[field]"
          class="inline-edit kind"
          :aria-label="label"
        >
          <option value="">{{ label }}</option>
          <option v-for="one in options" :key="one.name" :value="one.name">
            {{ one.name }} ({{ one.companies }})
          </option>
        </select>
        <select v-model="narrowed.atLeast" class="inline-edit kind" aria-label="Size">
          <option value="">any size</option>
          <option v-for="size in SIZES" :key="size" :value="String(size)">{{ size }} or more people</option>
        </select>
      </template>
      <RouterLink class="word" to="/look-alikes?kind=company">Look-alikes</RouterLink>
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="items?.length" class="book">
      <thead>
        <tr>
          <TickAll v-model="ticked" :ids="items.map((one) => one.id)" />
          <th>Name</th>
          <th class="wide">Domain</th>
          <th class="wide">Industry</th>
          <th class="wide">Country</th>
          <th class="wide num">Employees</th>
          <th class="num">People</th>
          <th class="num">Open deals</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in items" :key="one.id">
          <td class="tickbox">
            <input v-model="ticked" type="checkbox" :value="one.id" :aria-label="`Tick ${one.name}`" />
          </td>
          <td>
            <RouterLink :to="`/companies/${one.id}`"
              ><b>{{ one.name }}</b></RouterLink
            >
          </td>
          <td class="wide soft">{{ one.domain }}</td>
          <td class="wide">{{ one.industry }}</td>
          <td class="wide">{{ one.country }}</td>
          <td class="wide num">{{ one.employees ?? '' }}</td>
          <td class="num">{{ one.people }}</td>
          <td class="num">{{ one.openDeals || '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="items" class="empty">
      {{
        q || Object.values(narrowed).some(Boolean)
          ? 'No company like that.'
          : 'No company yet. Filing a message makes the company of its sender.'
      }}
    </p>
    <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
    <button v-if="hasMore" class="word" @click="more">More</button>
    <SelectionBar :companies="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>

<style scoped>
.narrow {
  width: 180px;
}
.kind {
  width: 150px;
}
</style>
