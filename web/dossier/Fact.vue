<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { nextTick, ref } from 'vue';
import { plainDomain, safeHref } from '../shell/links';
import { useUndo } from '../shell/undo';
import { useDraft } from '../shell/useDraft';
import SourceMark from './SourceMark.vue';

/**
 * One fact on a card, edited in place. When somebody else saved first, both values are shown and the person chooses;
 * nothing is lost either way.
 */
const props = defineProps<{
  label: string;
  /** The value as it is edited. */
  value: string | null;
  /** The value as it is read, where that is another. */
  shown?: string;
  kind?: 'text' | 'date';
  claim?: Claim | null;
  suggestion?: Claim | null;
  placeholder?: string;
  href?: string;
  /** Saves; gets the draft and the version to write over. */
  save?: (value: string, version: number) => Promise<void>;
  /** The version of the record it is a field of; left out, that of the page's record. */
  version?: number;
  /** The value as the server holds it, where that is not the text that is edited. */
  stored?: unknown;
  /** How a value of the server is written for people. */
  format?: (value: unknown) => string;
  /** The name of the field in the record, to find the other value in a clash. */
  field: string;
}>();
const undo = useUndo();
const input = ref<HTMLInputElement | null>(null);
const { text, isEditing, clash, begin, keep, putMine, keepTheirs, cancel } = useDraft({
  value: () => props.value ?? '',
  ...(props.version === undefined ? {} : { version: () => props.version }),
  ...(props.stored === undefined ? {} : { stored: () => props.stored }),
  save: async (value, version) => props.save?.(value, version),
  theirs: (record) => record[props.field],
  fail: (error) => undo.fail(error),
});
const written = (value: unknown): string =>
  value === null || value === undefined || value === ''
    ? 'nothing'
    : props.format
      ? props.format(value)
      : Array.isArray(value)
        ? value.join(', ')
        : String(value);

function edit(): void {
  if (!props.save) return;
  begin();
  void nextTick(() => input.value?.select());
}
</script>

<template>
  <div class="fact" :data-fact="field">
    <span class="cap">{{ label }}</span>
    <input
      v-if="isEditing"
      ref="input"
      v-model="text"
      class="inline-edit"
      :type="kind ?? 'text'"
      :aria-label="label"
      @keydown.enter.prevent="keep()"
      @keydown.esc.stop="cancel"
      @blur="keep()"
    />
    <div v-else class="value">
      <button
        v-if="save"
        class="plain"
        :aria-label="`${label}: ${shown ?? value ?? 'empty'}, change`"
        @click="edit"
      >
        <span v-if="value">{{ shown ?? value }}</span><span v-else class="soft">{{
          placeholder ?? 'add'
        }}</span>
      </button>
      <a v-else-if="safeHref(href)" :href="safeHref(href)" class="quiet-link" rel="noopener noreferrer">{{
        value
      }}</a>
      <span v-else>{{ shown ?? value }}</span>
      <span v-if="value && plainDomain(value)" class="soft">is {{ plainDomain(value) }}</span>
      <slot />
      <SourceMark :claim="claim ?? null" :suggestion="suggestion" />
    </div>
    <div v-if="clash" class="clash" role="alert">
      <span
        >Somebody saved <b>{{ written(clash.theirs) }}</b> meanwhile; you wrote
        <b>{{ text || 'nothing' }}</b>.</span
      >
      <button class="word on" @click="keepTheirs">Keep theirs</button>
      <button class="word on" @click="putMine">Put mine</button>
    </div>
  </div>
</template>

<style scoped>
.fact {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
  min-width: 0;
}
.cap {
  display: block;
  line-height: 1.2;
}
.value {
  min-height: 24px;
  overflow-wrap: anywhere;
}
.plain {
  min-height: 24px;
  min-width: 24px;
}
.plain:hover {
  text-decoration: underline;
  text-decoration-color: var(--rule);
  text-underline-offset: 3px;
}
.clash {
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
  font-size: 13px;
}
</style>
