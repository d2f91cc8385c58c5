<script setup lang="ts">
import type { Purpose, Topic } from '@emporikon/contract/consent';
import { PAGE_LANGUAGES } from '@emporikon/core/outreach/pageTexts';
import { ref } from 'vue';
import SidePanel from '../kit/SidePanel.vue';

/** Name and sentence of a purpose or topic, and the same in the languages of the page on which people choose. */
const props = defineProps<{ one: Purpose | Topic }>();
const emit = defineEmits<{
  close: [];
  save: [texts: { name: string; words: string; translations: Purpose['translations'] }];
}>();
const [, ...OTHERS] = PAGE_LANGUAGES;
const name = ref(props.one.name);
const words = ref(props.one.words);
const others = ref(
  OTHERS.map(({ code, name: language }) => ({
    code,
    language,
    name: props.one.translations[code]?.name ?? '',
    words: props.one.translations[code]?.words ?? '',
  })),
);
function save(): void {
  const kept = others.value.filter((one) => one.name.trim());
  emit('save', {
    name: name.value.trim(),
    words: words.value.trim(),
    translations: {
      // Languages that this page does not show stay as they are.
      ...Object.fromEntries(
        Object.entries(props.one.translations).filter(([code]) => !OTHERS.some((one) => one.code === code)),
      ),
      ...Object.fromEntries(
        kept.map((one) => [one.code, { name: one.name.trim(), words: one.words.trim() }]),
      ),
    },
  });
}
</script>

<template>
  <SidePanel :label="one.name" @close="emit('close')">
    <form class="texts" @submit.prevent="save">
      <h2>What they agree to</h2>
      <v-text-field v-model="name" label="Name" maxlength="80" required />
      <v-textarea v-model="words" label="The sentence they agree to" rows="2" maxlength="1000" />
      <p class="soft">In other languages. Without a name they see the one above.</p>
      <fieldset v-for="other in others" :key="other.code">
        <legend>{{ other.language }}</legend>
        <v-text-field v-model="other.name" :label="`Name in ${other.language}`" maxlength="80" />
        <v-textarea
          v-model="other.words"
          :label="`Sentence in ${other.language}`"
          rows="2"
          maxlength="1000"
          :disabled="!other.name.trim()"
        />
      </fieldset>
      <div class="do">
        <v-btn class="fill" type="submit" :disabled="!name.trim()">Save</v-btn>
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.texts {
  display: grid;
  gap: 10px;
  padding: 14px 24px 24px;
}
fieldset {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 10px 0 0;
  border: 0;
  border-top: 1px solid var(--rule2);
}
legend {
  padding: 0;
  font-weight: 600;
}
.do {
  display: flex;
  gap: 10px;
}
</style>
