<script setup lang="ts">
/** One line below the card: what can be done with the record, and how complete it is. */
</script>

<template>
  <div class="acts">
    <div class="ways"><slot /></div>
    <slot name="meter" />
  </div>
</template>

<style scoped>
.acts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 24px;
  padding: 3px 24px;
  align-items: baseline;
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  align-items: baseline;
}
.ways :deep(> a) {
  display: inline-block;
  line-height: 24px;
}
@media (max-width: 1000px) {
  .acts {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media (max-width: 700px) {
  .acts {
    padding: 4px 14px;
  }
}
</style>
