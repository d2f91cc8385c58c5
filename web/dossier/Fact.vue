<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import type { CellKind, CellOption } from '../kit/cells';
import EditCell from '../kit/EditCell.vue';
import SourceMark from '../kit/SourceMark.vue';
import { plainDomain, safeHref } from '../shell/links';

/** One fact on a card: its caption, its value edited in place, and where it comes from. */
defineProps<{
  label: string;
  /** The value as it is edited. */
  value: string | null;
  /** The value as it is read, where that is another. */
  shown?: string;
  kind?: CellKind;
  options?: readonly CellOption[];
  currency?: string;
  help?: string;
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
</script>

<template>
  <div class="fact" :data-fact="field" :data-empty="value ? undefined : ''">
    <span class="cap">{{ label }}</span>
    <div class="value">
      <EditCell
        :label="label"
        :value="value"
        :shown="shown"
        :kind="kind"
        :options="options"
        :currency="currency"
        :help="help"
        :placeholder="placeholder"
        :save="save"
        :version="version"
        :stored="stored"
        :format="format"
        :field="field"
      >
        <template #reading>
          <a v-if="safeHref(href)" :href="safeHref(href)" class="quiet-link" rel="noopener noreferrer">{{
            value
          }}</a>
          <span v-else>{{ shown ?? value }}</span>
        </template>
      </EditCell>
      <span v-if="value && plainDomain(value)" class="soft">is {{ plainDomain(value) }}</span>
      <slot />
      <SourceMark :claim="claim ?? null" :suggestion="suggestion" />
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
</style>
