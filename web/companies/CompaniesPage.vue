<script setup lang="ts">
import { ref, watch } from 'vue';
import { api } from '../shell/api';
import { usePaged } from '../shell/usePaged';

const q = ref('');
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) => api('GET /api/companies', { query: { cursor, q: q.value, limit: 60 } }),
  ['people', 'companies', 'deals'],
);
let timer: ReturnType<typeof setTimeout> | undefined;
watch(q, () => {
  clearTimeout(timer);
  timer = setTimeout(() => void reload(), 120);
});
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
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="items?.length" class="book">
      <thead>
        <tr>
          <th>Name</th>
          <th class="wide">Domain</th>
          <th class="num">People</th>
          <th class="num">Open deals</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in items" :key="one.id">
          <td>
            <RouterLink :to="`/companies/${one.id}`"
              ><b>{{ one.name }}</b></RouterLink
            >
          </td>
          <td class="wide soft">{{ one.domain }}</td>
          <td class="num">{{ one.people }}</td>
          <td class="num">{{ one.openDeals || '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="items" class="empty">
      {{ q ? `No company by “${q}”.` : 'No company yet. Filing a message makes the company of its sender.' }}
    </p>
    <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
    <button v-if="hasMore" class="word" @click="more">More</button>
  </div>
</template>

<style scoped>
.narrow {
  width: 220px;
}
</style>
