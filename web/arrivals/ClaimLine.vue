<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { nextTick, ref, useTemplateRef, watch } from 'vue';
import { fieldName, percent } from '../shell/format';

const props = defineProps<{ claim: Claim; isLit: boolean; isOpen: boolean; isEditing: boolean }>();
const emit = defineEmits<{
  point: [on: boolean];
  edit: [on: boolean];
  correct: [value: string];
  retype: [type: NonNullable<Claim['type']>];
  fate: [];
}>();
const field = useTemplateRef('field');
const draft = ref('');
/** Enter takes the field away, and its going is a blur: only the first of the two counts. */
let isOpenDraft = false;

function settle(): void {
  if (isOpenDraft) emit('correct', draft.value);
  isOpenDraft = false;
}

function leave(): void {
  isOpenDraft = false;
  emit('edit', false);
}

watch(
  () => props.isEditing,
  (on) => {
    if (!on) return;
    draft.value = props.claim.value;
    isOpenDraft = true;
    void nextTick(() => field.value?.select());
  },
);
</script>

<template>
  <div
    class="row"
    :class="{ on: isLit }"
    :data-claim="claim.field"
    @mouseenter="emit('point', true)"
    @mouseleave="emit('point', false)"
    @focusin="emit('point', true)"
    @focusout="emit('point', false)"
  >
    <span class="cap">
      <v-select
        v-if="claim.field === 'phone' && isOpen && claim.fate !== 'rejected'"
        :model-value="claim.type ?? 'work'"
        aria-label="Kind of phone"
        :items="[
          { value: 'mobile', title: 'Mobile' },
          { value: 'work', title: 'Work phone' },
          { value: 'home', title: 'Home phone' },
          { value: 'fax', title: 'Fax' },
        ]"
        @update:model-value="emit('retype', $event as NonNullable<Claim['type']>)"
      />
      <template v-else>{{ fieldName(claim.field, claim.type) }}</template>
    </span>
    <v-text-field
      v-if="isEditing && isOpen"
      ref="field"
      v-model="draft"
      class="inline-edit"
      :aria-label="`Correct ${fieldName(claim.field, claim.type)}`"
      @keydown.enter.prevent="settle"
      @keydown.esc.stop="leave"
      @blur="settle"
    />
    <v-btn
      v-else-if="isOpen && claim.fate !== 'rejected'"
      class="plain value"
      :title="`${claim.source}; press to correct`"
      @click="emit('edit', true)"
    >
      {{ claim.value }}
    </v-btn>
    <span v-else class="value" :class="{ gone: claim.fate === 'rejected' }" :title="claim.source">{{
      claim.value
    }}</span>
    <span class="end">
      <span class="odds num">{{ claim.byHand ? 'by hand' : percent(claim.confidence) }}</span>
      <v-btn
        v-if="isOpen"
        class="word"
        :aria-label="`${claim.fate === 'rejected' ? 'Restore' : 'Reject'} ${fieldName(claim.field, claim.type)} ${claim.value}`"
        @click="emit('fate')"
      >
        {{ claim.fate === 'rejected' ? 'Restore' : 'Reject' }}
      </v-btn>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 92px 1fr auto;
  gap: 0 6px;
  padding: 1px 0;
  line-height: 1.35;
  border-top: 1px solid var(--rule2);
  align-items: baseline;
}
.row.on {
  background: var(--lit);
}
.row.on .odds,
.row.on .cap,
.row.on .word {
  color: var(--ink);
}
.value {
  overflow-wrap: anywhere;
  min-height: 24px;
}
.gone {
  text-decoration: line-through;
  color: var(--soft);
}
.odds {
  font-size: 12px;
  color: var(--soft);
}
.end {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
select {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 4px 0;
  margin-left: -4px;
  max-width: 92px;
}
option {
  color: var(--ink);
  background: var(--sheet);
}
</style>
