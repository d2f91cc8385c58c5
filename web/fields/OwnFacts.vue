<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import type { FieldValue } from '@emporikon/contract/fields';
import Fact from '../dossier/Fact.vue';
import FileButton from '../kit/FileButton.vue';
import type { CellOption } from '../kit/cells';
import { cellOf, editedOf, hrefOf, keptOf, optionsOf, shownOf } from './ownFact';

/** Facts of fields of the organisation's own, under their headings, each edited in place by its kind. */
defineProps<{
  parts: readonly { name: string; fields: readonly (FieldValue & { claim?: Claim | null })[] }[];
  /** Saves what the server takes, over a version. */
  save: (key: string) => (value: string, version: number) => Promise<void>;
  /** The version of the record; left out, that of the page's record. */
  version?: number;
  /** What a field for a file chooses from. */
  files: readonly CellOption[];
  /** The field that a file is on its way to. */
  sending: string | null;
}>();
const emit = defineEmits<{ send: [key: string, file: File] }>();
</script>

<template>
  <template v-for="part in parts" :key="part.name">
    <h4 v-if="part.name" class="cap part">{{ part.name }}</h4>
    <Fact
      v-for="one in part.fields"
      :key="one.key"
      :label="one.label"
      :field="`custom.${one.key}`"
      :stored="one.value || null"
      :format="(value) => shownOf({ ...one, value: String(value ?? ''), shown: null })"
      :version="version"
      :kind="cellOf(one)"
      :options="optionsOf(one, files)"
      :currency="one.options[0]"
      :help="one.help || undefined"
      :value="editedOf(one)"
      :shown="shownOf(one) || undefined"
      :href="one.kind === 'link' ? one.value : undefined"
      :claim="one.claim"
      :placeholder="one.isAsked ? 'Worth asking' : 'Not known'"
      :save="one.mayChange ? (typed, at) => save(one.key)(keptOf(one, typed), at) : undefined"
    >
      <template v-if="one.value">
        {{ ' ' }}
        <RouterLink
          v-if="hrefOf(one)"
          :to="hrefOf(one) ?? ''"
          class="quiet-link"
          :aria-label="`Open ${shownOf(one)}`"
          >Open</RouterLink
        >
        <a
          v-else-if="one.kind === 'link'"
          :href="one.value"
          class="quiet-link"
          rel="noopener noreferrer"
          target="_blank"
          :aria-label="`Open ${one.label}`"
          >Open</a
        >
        <a
          v-else-if="one.kind === 'file' && one.shown"
          :href="`/api/files/${one.value}/content`"
          class="quiet-link"
          :aria-label="`Open ${shownOf(one)}`"
          >Open</a
        >
      </template>
      <template v-if="one.kind === 'file' && one.mayChange">
        {{ ' ' }}
        <FileButton
          :label="`Upload a file as ${one.label}`"
          :busy="sending === one.key"
          @take="emit('send', one.key, $event)"
          >Upload</FileButton
        >
      </template>
    </Fact>
  </template>
</template>

<style scoped>
.part {
  grid-column: 1 / -1;
  margin: 8px 0 0;
}
</style>
