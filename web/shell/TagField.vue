<script setup lang="ts">
import { ref } from 'vue';
import { api } from './api';

const tags = defineModel<string[]>({ required: true });
const draft = ref('');
/** Offered while somebody types, and read when they begin to. */
const known = ref<string[]>([]);
async function offer(): Promise<void> {
  known.value = (await api('GET /api/lists').catch(() => null))?.tags.map(({ tag }) => tag) ?? [];
}

function take(): void {
  const more = draft.value
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one && !tags.value.some((tag) => tag.toLowerCase() === one.toLowerCase()));
  if (more.length) tags.value = [...tags.value, ...more];
  draft.value = '';
}
const drop = (tag: string): void => void (tags.value = tags.value.filter((one) => one !== tag));
</script>

<template>
  <div class="field">
    <span class="cap">Tags</span>
    <div class="tags">
      <button
        v-for="tag in tags"
        :key="tag"
        type="button"
        class="word"
        :aria-label="`Drop the tag ${tag}`"
        @click="drop(tag)"
      >
        {{ tag }} ×
      </button>
      <input
        v-model="draft"
        list="all-tags"
        aria-label="Add tags"
        placeholder="Add tags"
        @focus.once="offer"
        @change="take"
        @keydown.enter.prevent="take"
      />
      <datalist id="all-tags">
        <option v-for="tag in known" :key="tag" :value="tag" />
      </datalist>
    </div>
  </div>
</template>

<style scoped>
.tags {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}
.tags input {
  flex: 1;
  min-width: 140px;
}
</style>
