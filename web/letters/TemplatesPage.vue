<script setup lang="ts">
import type { LetterTemplate } from '@emporikon/contract/letters';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { counted, percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useQueryRef } from '../shell/useQueryRef';
import TemplateSheet from './TemplateSheet.vue';

/** The templates of letters, one's own and the team's, by folder. */
const { data, error, load } = useFetched(() => api('GET /api/letter-templates'), ['letter_templates']);
const chosen = useQueryRef<string>('template', '');
const isNew = ref(false);
const items = computed(() => data.value?.items ?? []);
const folders = computed(() =>
  [...new Set(items.value.map(({ folder }) => folder))].map((name) => ({
    name: name || 'Without a folder',
    items: items.value.filter(({ folder }) => folder === name),
  })),
);
const open = computed(() =>
  isNew.value ? null : (items.value.find(({ id }) => id === chosen.value) ?? null),
);
/** With few letters a share says little: the interval says how little. */
function answered({ answered: { sent, answered: n, low, high } }: LetterTemplate): string {
  if (!sent) return 'not used yet';
  return `${n} of ${counted(sent, 'letter')} answered${sent < 20 ? `, so between ${percent(low)} and ${percent(high)}` : ` (${percent(n / sent)})`}`;
}
function begin(): void {
  isNew.value = true;
  chosen.value = '';
}
function show(id: string): void {
  isNew.value = false;
  chosen.value = id;
}
async function saved(id: string | null): Promise<void> {
  await load();
  isNew.value = false;
  chosen.value = id ?? '';
}
</script>

<template>
  <div class="templates">
    <section class="list" aria-label="Templates">
      <PageHead title="Templates">
        <v-btn class="fill" @click="begin">New template</v-btn>
      </PageHead>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div v-for="folder in folders" :key="folder.name">
        <h2>{{ folder.name }}</h2>
        <ul>
          <li
            v-for="one in folder.items"
            :key="one.id"
            :aria-current="one.id === chosen ? 'true' : undefined"
          >
            <v-btn class="word" @click="show(one.id)">{{ one.name }}</v-btn>
            <span v-if="one.shortcut" class="soft">;{{ one.shortcut }}</span>
            <span class="cap">{{ one.shared ? 'The team’s' : 'Yours' }} · {{ answered(one) }}</span>
          </li>
        </ul>
      </div>
      <p v-if="data && !items.length" class="empty">
        No templates yet. A template is a letter with fields that are filled in for whoever gets it.
      </p>
    </section>
    <TemplateSheet v-if="isNew || open" :key="open?.id ?? 'new'" :template="open" @saved="saved" />
    <p v-else class="hintline soft">Choose a template to read and change it.</p>
  </div>
</template>

<style scoped>
.templates {
  display: grid;
  grid-template-columns: 360px minmax(0, 1fr);
  min-height: calc(100vh - 124px);
}
.list {
  padding: 14px 20px;
  border-right: 1px solid var(--rule);
}
ul {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--rule2);
  padding: 5px 0 5px 8px;
  border-left: 3px solid transparent;
}
li[aria-current] {
  border-left-color: var(--ours);
  background: var(--sheet);
}
li .soft {
  margin-left: 8px;
}
li .cap {
  display: block;
}
.hintline {
  padding: 20px 24px;
}
@media (max-width: 900px) {
  .templates {
    grid-template-columns: minmax(0, 1fr);
  }
  .list {
    border-right: 0;
  }
}
</style>
