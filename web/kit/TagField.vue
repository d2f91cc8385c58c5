<script setup lang="ts">
import { ref } from 'vue';
import { api } from '../shell/api';

/** Tags, typed or chosen from those in use; several at once are separated by commas. */
const tags = defineModel<string[]>({ required: true });
withDefaults(defineProps<{ label?: string }>(), { label: 'Tags' });
/** Offered while somebody types, and read when they begin to. */
const known = ref<string[]>([]);
async function offer(): Promise<void> {
  known.value = (await api('GET /api/lists').catch(() => null))?.tags.map(({ tag }) => tag) ?? [];
}

function set(next: string[]): void {
  const seen = new Set<string>();
  tags.value = next
    .flatMap((tag) => tag.split(','))
    .map((tag) => tag.trim())
    .filter((tag) => {
      const key = tag.toLowerCase();
      return tag && !seen.has(key) && seen.add(key);
    });
}
</script>

<template>
  <v-combobox
    :model-value="tags"
    :items="known"
    :label="label"
    placeholder="Add tags"
    persistent-placeholder
    multiple
    chips
    closable-chips
    hide-selected
    menu-icon=""
    :delimiters="[',']"
    @focus.once="offer"
    @update:model-value="set"
  />
</template>
