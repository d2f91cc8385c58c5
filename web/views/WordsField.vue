<script setup lang="ts">
import type { Filter, Group, Order, RecordKind } from '@emporikon/core/query/types';
import { ref, watch } from 'vue';
import { api, wordsOf } from '../shell/api';

interface Read {
  kind: RecordKind;
  conditions: Filter[];
  groups: Group[];
  order: Order[];
  notUnderstood: string[];
}
/** A question in plain words: how it is read stands below it before it applies. */
const props = defineProps<{
  kind: RecordKind;
  inWords: (filter: Filter) => string;
  fieldName: (key: string) => string;
}>();
const emit = defineEmits<{ apply: [read: Read] }>();
const text = ref('');
const read = ref<Read | null>(null);
const error = ref('');
const PAUSE_MS = 180;
let timer: ReturnType<typeof setTimeout> | undefined;
let asked = 0;

async function ask(): Promise<void> {
  clearTimeout(timer);
  const words = text.value.trim();
  const mine = ++asked;
  if (!words) {
    read.value = null;
    return;
  }
  try {
    const answer = (await api('POST /api/queries/words', {
      body: { words, kind: props.kind },
    })) as unknown as Read;
    if (mine === asked) [read.value, error.value] = [answer, ''];
  } catch (problem) {
    if (mine === asked) error.value = wordsOf(problem);
  }
}
watch(text, () => {
  clearTimeout(timer);
  timer = setTimeout(() => void ask(), PAUSE_MS);
});

/** Enter takes it as it is read now, also where the answer is still on its way. */
async function apply(): Promise<void> {
  await ask();
  const { value } = read;
  if (!value || value.kind !== props.kind) return;
  if (!value.conditions.length && !value.groups.length && !value.order.length) return;
  emit('apply', value);
  text.value = value.notUnderstood.join(' ');
  read.value = null;
}
function leave(): void {
  text.value = '';
  read.value = null;
}
</script>

<template>
  <form class="words" @submit.prevent="apply">
    <v-text-field
      v-model="text"
      class="inline-edit"
      aria-label="Add a condition in words"
      placeholder="add a condition, or write it: in Portugal or Ireland"
      data-words
      @keydown.esc="leave"
    />
    <div v-if="read || error" class="read" role="status">
      <p v-if="error" class="wrong">{{ error }}</p>
      <template v-else-if="read">
        <p v-if="read.kind !== kind" class="wrong">
          This asks for another kind of record. Open its views to ask it there.
        </p>
        <template v-else>
          <p v-for="(condition, at) in read.conditions" :key="at">{{ inWords(condition) }}</p>
          <p v-if="read.groups.length">
            Grouped by {{ read.groups.map((group) => fieldName(group.field)).join(', then ') }}
          </p>
          <p v-if="read.order.length">
            Sorted by {{ read.order.map((one) => fieldName(one.field)).join(', then ') }}
          </p>
          <p v-if="read.notUnderstood.length" class="missed">
            Not understood, and left out: {{ read.notUnderstood.map((words) => `“${words}”`).join(', ') }}
          </p>
          <p v-if="read.conditions.length || read.groups.length || read.order.length" class="soft">
            Press Enter to apply
          </p>
        </template>
      </template>
    </div>
  </form>
</template>

<style scoped>
.words {
  position: relative;
  flex: 1 1 260px;
  align-self: center;
  padding: 0 12px;
}
.read {
  position: absolute;
  z-index: 5;
  top: calc(100% + 6px);
  left: 0;
  right: 0;
  display: grid;
  gap: 4px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.read p {
  margin: 0;
}
.missed {
  color: var(--wait);
}
</style>
