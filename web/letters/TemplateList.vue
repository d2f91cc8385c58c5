<script setup lang="ts">
import type { LetterTemplate } from '@emporikon/contract/letters';
import { computed, ref } from 'vue';

/** The templates that a letter can be begun with, by folder; each with the word that brings it. */
const props = defineProps<{ templates: readonly LetterTemplate[]; disabled: boolean }>();
const emit = defineEmits<{ take: [id: string] }>();
const q = ref('');
const folders = computed(() => {
  const words = q.value.trim().toLowerCase();
  const found = props.templates.filter(
    ({ name, folder, shortcut }) =>
      !words || `${folder} ${name} ${shortcut ?? ''}`.toLowerCase().includes(words),
  );
  const names = [...new Set(found.map(({ folder }) => folder))];
  return names.map((name) => ({ name, items: found.filter(({ folder }) => folder === name) }));
});
</script>

<template>
  <section class="templates" aria-label="Templates">
    <div class="head">
      <h2>Templates</h2>
      <RouterLink to="/mailings/templates" class="quiet-link cap">Edit templates</RouterLink>
    </div>
    <v-text-field
      v-if="templates.length > 8"
      v-model="q"
      class="inline-edit"
      aria-label="Find a template"
      placeholder="Find a template"
    />
    <div v-for="folder in folders" :key="folder.name" class="folder">
      <span v-if="folder.name" class="cap">{{ folder.name }}</span>
      <v-btn
        v-for="one in folder.items"
        :key="one.id"
        class="word"
        :disabled="disabled"
        @click="emit('take', one.id)"
        >{{ one.name }}<span v-if="one.shortcut" class="soft short">;{{ one.shortcut }}</span></v-btn
      >
    </div>
    <p v-if="!templates.length" class="soft">None yet.</p>
    <p v-else class="soft tip">
      Typed in the letter, a word such as ;{{ templates.find((one) => one.shortcut)?.shortcut ?? 'thanks' }}
      brings a template.
    </p>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--rule);
}
h2 {
  margin: 0;
}
.folder {
  display: grid;
  justify-items: start;
  margin-top: 6px;
}
.short {
  margin-left: 8px;
  font-weight: 400;
}
.tip {
  font-size: 13px;
  margin: 8px 0 0;
}
</style>
