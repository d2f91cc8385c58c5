<script setup lang="ts">
import { computed, ref } from 'vue';
import { useMedia } from '../shell/browser';

/** The filters of a list: beside its search field, or on a phone behind one word that says how many are set. */
const props = defineProps<{
  /** A value for each filter that is truthy when it narrows the list. */
  set: readonly unknown[];
}>();
const isPhone = useMedia('(max-width: 700px)');
const isOpen = ref(false);
const count = computed(() => props.set.filter(Boolean).length);
</script>

<template>
  <template v-if="isPhone">
    <v-btn class="word more" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ count ? `Filters (${count})` : 'Filters' }}
    </v-btn>
    <div v-if="isOpen" class="open" role="group" aria-label="Filters"><slot /></div>
  </template>
  <slot v-else />
</template>

<style scoped>
.more {
  order: 1;
}
.open {
  order: 1;
  flex: 1 0 100%;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 12px;
  align-items: center;
}
.open :deep(.v-input) {
  width: auto;
  max-width: none;
}
</style>
