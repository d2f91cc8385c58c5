<script setup lang="ts">
import { ref } from 'vue';

/** A place to drop files on, or to choose them at. */
defineProps<{ accept: string; multiple?: boolean; hint: string }>();
const emit = defineEmits<{ take: [files: FileList | null | undefined] }>();
const isOver = ref(false);

function drop(event: DragEvent): void {
  isOver.value = false;
  emit('take', event.dataTransfer?.files);
}
</script>

<template>
  <label
    class="drop"
    :class="{ over: isOver }"
    @dragover.prevent="isOver = true"
    @dragleave="isOver = false"
    @drop.prevent="drop"
  >
    <input
      type="file"
      :accept="accept"
      :multiple="multiple"
      class="visually-hidden"
      @change="emit('take', ($event.target as HTMLInputElement).files)"
    />
    <span><slot /></span>
    <span class="cap">{{ hint }}</span>
  </label>
</template>

<style scoped>
.drop {
  position: relative;
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 2px;
  min-height: 84px;
  padding: 12px;
  text-align: center;
  border: 1px dashed var(--soft);
  border-radius: 3px;
  cursor: pointer;
}
.drop.over,
.drop:focus-within {
  border-color: var(--ours);
  background: var(--lit);
}
</style>
