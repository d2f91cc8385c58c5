<script setup lang="ts">
import { computed } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { MEANINGS, toneClass } from './tagMeanings';

/** Tags, typed or chosen from those in use; several at once are separated by commas. */
const tags = defineModel<string[]>({ required: true });
withDefaults(defineProps<{ label?: string }>(), { label: 'Tags' });
const { data } = useFetched(() => api('GET /api/tags'), ['tag_meanings']);
const known = computed(() => data.value?.items.map(({ tag }) => tag) ?? []);
const meanings = computed(() => new Map(data.value?.items.map(({ tag, meaning }) => [tag, meaning])));
const toneOf = (tag: string): string => toneClass(meanings.value.get(tag));
const titleOf = (tag: string): string => {
  const meaning = meanings.value.get(tag);
  return meaning ? (MEANINGS.find(({ value }) => value === meaning)?.title ?? '') : '';
};

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
    @update:model-value="set"
  >
    <template #chip="{ props: chip, item }">
      <v-chip v-bind="chip" :class="toneOf(String(item))" :title="titleOf(String(item)) || undefined"
        >{{ item
        }}<span v-if="titleOf(String(item))" class="visually-hidden"
          >: {{ titleOf(String(item)) }}</span
        ></v-chip
      >
    </template>
  </v-combobox>
</template>
