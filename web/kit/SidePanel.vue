<script setup lang="ts">
/** Something that stands beside the page, which stays as it is. */
defineProps<{ label: string }>();
const emit = defineEmits<{ close: [] }>();
</script>

<template>
  <aside class="side-panel" :aria-label="label">
    <div class="head">
      <span class="cap">{{ label }}</span>
      <v-btn class="word" @click="emit('close')">Close</v-btn>
    </div>
    <div class="body"><slot /></div>
  </aside>
</template>

<style scoped>
.side-panel {
  position: fixed;
  z-index: 25;
  top: 92px;
  right: 0;
  bottom: 0;
  width: min(520px, 100vw);
  display: flex;
  flex-direction: column;
  background: var(--ground);
  border-left: 1px solid var(--ink);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding: 6px 24px;
  border-bottom: 1px solid var(--rule);
}
.body {
  flex: 1;
  overflow-y: auto;
  container-type: inline-size;
}
@media (max-width: 700px) {
  .side-panel {
    top: 0;
  }
  .head {
    padding: 6px 14px;
  }
}
</style>
