<script setup lang="ts">
import type { SearchHit } from '@emporikon/contract/settings';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from './api';
import { useUndo } from './undo';

const PATHS = { person: '/people/', company: '/companies/', lead: '/leads/', deal: '/deals/' } as const;
const PAUSE_MS = 70;
const router = useRouter();
const undo = useUndo();
const field = ref<HTMLInputElement | null>(null);
const words = ref('');
const hits = ref<SearchHit[]>([]);
const at = ref(0);
const isOpen = ref(false);
const isAnswered = ref(false);
let timer: ReturnType<typeof setTimeout> | undefined;

watch(words, (q) => {
  clearTimeout(timer);
  isAnswered.value = false;
  if (!q.trim()) {
    hits.value = [];
    return;
  }
  timer = setTimeout(() => {
    void api('GET /api/search', { query: { q } })
      .then(({ items }) => {
        if (words.value !== q) return;
        hits.value = items;
        at.value = 0;
        isAnswered.value = true;
      })
      .catch(undo.fail);
  }, PAUSE_MS);
});

function go(hit: SearchHit | undefined): void {
  if (!hit) return;
  words.value = '';
  isOpen.value = false;
  field.value?.blur();
  void router.push(PATHS[hit.kind] + hit.id);
}

function press(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') at.value = Math.min(at.value + 1, hits.value.length - 1);
  else if (event.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0);
  else if (event.key === 'Enter') go(hits.value[at.value]);
  else if (event.key === 'Escape') field.value?.blur();
  else return;
  event.preventDefault();
}

const shortcut = (event: KeyboardEvent): void => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    field.value?.focus();
    field.value?.select();
  }
};
onMounted(() => window.addEventListener('keydown', shortcut));
onBeforeUnmount(() => window.removeEventListener('keydown', shortcut));
</script>

<template>
  <div class="find" role="search">
    <input
      ref="field"
      v-model="words"
      type="search"
      role="combobox"
      aria-label="Find a person, company, lead or deal"
      aria-controls="found"
      :aria-expanded="isOpen && hits.length > 0"
      :aria-activedescendant="isOpen && hits.length ? `found-${at}` : undefined"
      placeholder="Find a person, company, number or deal"
      autocomplete="off"
      @focus="isOpen = true"
      @blur="isOpen = false"
      @keydown="press"
    />
    <span class="key" aria-hidden="true">Ctrl K</span>
    <ul v-show="isOpen && hits.length" id="found" role="listbox" aria-label="Found">
      <li
        v-for="(hit, index) in hits"
        :id="`found-${index}`"
        :key="hit.id"
        role="option"
        :aria-selected="index === at"
        @mousedown.prevent="go(hit)"
        @mousemove="at = index"
      >
        <b>{{ hit.label }}</b> <span class="soft">{{ hit.hint }}</span><span class="cap kind">{{
          hit.inactive ? `inactive ${hit.kind}` : hit.kind
        }}</span>
      </li>
    </ul>
    <p v-if="isOpen && isAnswered && !hits.length" class="none soft" role="status">
      Nobody and nothing by “{{ words }}”.
    </p>
  </div>
</template>

<style scoped>
.find {
  position: relative;
  flex: 1;
  max-width: 560px;
  min-width: 0;
}
input {
  width: 100%;
  height: 34px;
  border: 1px solid var(--rule);
  background: var(--sheet);
  color: var(--ink);
  border-radius: 3px;
  padding: 0 64px 0 12px;
  font: 14px var(--ui);
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
input::-webkit-search-cancel-button {
  display: none;
}
.key {
  position: absolute;
  right: 12px;
  top: 8px;
}
ul,
.none {
  position: absolute;
  z-index: 20;
  left: 0;
  right: 0;
  top: 38px;
  margin: 0;
  padding: 4px 0;
  list-style: none;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.none {
  padding: 8px 12px;
}
li {
  padding: 6px 12px;
  min-height: 34px;
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--lit);
}
li .kind {
  margin-left: auto;
}
@media (max-width: 700px) {
  .key {
    display: none;
  }
  input {
    padding-right: 8px;
  }
}
</style>
