<script setup lang="ts">
import { useStored } from '../shell/browser';

defineProps<{ name: string }>();
/** Folded to one line, the card leaves the whole page to the ledger. */
const isFolded = useStored('emporikon.card.folded', false);
</script>

<template>
  <section class="card" :class="{ folded: isFolded }" aria-label="Card">
    <header>
      <h1>{{ name }}</h1>
      <slot name="role"></slot>
      <v-btn class="word fold" :aria-expanded="!isFolded" @click="isFolded = !isFolded">
        {{ isFolded ? 'Unfold' : 'Fold' }}
      </v-btn>
    </header>
    <div v-if="!isFolded" class="facts"><slot name="facts"></slot></div>
    <slot v-if="!isFolded" name="side"></slot>
  </section>
</template>

<style scoped>
.card {
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
  padding: 10px 24px 6px;
  display: grid;
  grid-template-columns: 1fr 300px;
  gap: 2px 28px;
}
header {
  grid-column: 1 / 3;
  display: flex;
  align-items: baseline;
  gap: 4px 14px;
  flex-wrap: wrap;
  margin-bottom: 4px;
  color: var(--soft);
}
header h1 {
  color: var(--ink);
}
.fold {
  margin-left: auto;
}
.folded header {
  margin: 0;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0 24px;
  align-content: start;
}
@media (max-width: 700px) {
  .card {
    grid-template-columns: 1fr;
    padding: 12px 14px;
  }
  header {
    grid-column: 1;
  }
  .facts {
    grid-template-columns: 1fr 1fr;
    gap: 0 14px;
  }
}
</style>
