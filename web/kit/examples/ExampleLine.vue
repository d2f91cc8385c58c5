<script setup lang="ts">
/** One component: what it is called, one sentence on what it is for, the thing itself and the value it gives. */
defineProps<{ name: string; says: string; value?: unknown }>();
</script>

<template>
  <section class="example" :aria-label="name">
    <h2>{{ name }}</h2>
    <p class="soft">{{ says }}</p>
    <div class="shown"><slot /></div>
    <p v-if="value !== undefined" class="cap">
      Its value: <span class="num">{{ JSON.stringify(value) }}</span>
    </p>
  </section>
</template>

<style scoped>
.example {
  padding: 12px 0;
  border-top: 1px solid var(--rule);
  display: grid;
  gap: 6px;
}
.shown {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: flex-start;
}
p {
  margin: 0;
}
.cap .num {
  white-space: normal;
  overflow-wrap: anywhere;
}
</style>
