<script setup lang="ts">
import type { TriageCard } from '@emporikon/contract/triage';

/** Who comes next in the pile, and who was decided last. */
defineProps<{ next: readonly TriageCard[]; decided: readonly TriageCard[] }>();
</script>

<template>
  <aside class="pile-side" aria-label="The pile">
    <template v-if="next.length">
      <h2>Up next</h2>
      <ul>
        <li v-for="one in next" :key="one.id">
          <b>{{ one.name }}</b>
          <span v-if="one.company" class="soft">{{ one.company.name }}</span>
        </li>
      </ul>
    </template>
    <template v-if="decided.length">
      <h2>Decided</h2>
      <ul>
        <li v-for="one in decided" :key="one.id" class="soft">{{ one.name }}</li>
      </ul>
    </template>
  </aside>
</template>

<style scoped>
.pile-side {
  border-left: 1px solid var(--rule);
  padding-left: 20px;
}
ul {
  list-style: none;
  margin: 6px 0 18px;
  padding: 0;
}
li {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li span {
  display: block;
  font-size: 13px;
}
@media (max-width: 900px) {
  .pile-side {
    display: none;
  }
}
</style>
