<script setup lang="ts">
/** The head of a page: its title, what stands beside it, and a sentence that says what the page is for. */
defineProps<{ title: string; help?: string }>();
</script>

<template>
  <header class="page-head">
    <h1>{{ title }}</h1>
    <slot />
    <p v-if="help" class="help">{{ help }}</p>
  </header>
</template>

<style scoped>
.help {
  flex-basis: 100%;
  margin: -4px 0 6px;
  padding-right: max(0px, 100% - 96ch);
  font-size: 13px;
  color: var(--soft);
}
</style>
