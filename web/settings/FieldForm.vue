<script setup lang="ts">
import type { CustomField } from '@emporikon/contract/fields';
import { OWN_KINDS, type OwnRecord } from '@emporikon/core/fields/own';
import { LEVELS } from '@emporikon/core/fields/rights';
import { computed, ref, watch } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api, ApiProblem, wordsOf } from '../shell/api';
import { useUndo } from '../shell/undo';
import { bodyOf, draftOf, hasChoices, KIND_WORDS, mayBegin, mayBeUnique } from './fieldDraft';

/** A field of the organisation's own: a new one, or one that is changed. Its kind stays what it began as. */
const props = defineProps<{
  record: OwnRecord;
  field: CustomField | null;
  currency: string;
  /** What a field of these records can be for. */
  whatFor: readonly { value: string; title: string }[];
  tabs: readonly string[];
  parts: readonly string[];
}>();
const emit = defineEmits<{ close: []; saved: [] }>();
const undo = useUndo();
const draft = ref(draftOf(props.field, props.currency));
const wrong = ref<Record<string, string>>({});
const error = ref('');
const isBusy = ref(false);
const kinds = OWN_KINDS.map((value) => ({ value, title: KIND_WORDS[value] }));
const LEVEL_ITEMS = [
  { value: 'everybody', title: 'Everybody who sees the record' },
  { value: 'managers', title: 'Managers and admins' },
  { value: 'admins', title: 'Admins' },
] as const;
// Whoever changes a field has to see it.
watch(
  () => draft.value.seenBy,
  (seen) => {
    if (LEVELS.indexOf(draft.value.changedBy) < LEVELS.indexOf(seen)) draft.value.changedBy = seen;
  },
);
const title = computed(() => (props.field ? props.field.label : 'New field'));

async function save(): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  error.value = '';
  wrong.value = {};
  try {
    const body = bodyOf(draft.value);
    const { eventId } = props.field
      ? await api('PATCH /api/fields/:id', {
          params: { id: props.field.id },
          body: { ...body, version: props.field.version },
        })
      : await api('POST /api/fields', { body: { ...body, record: props.record, kind: draft.value.kind } });
    undo.tell({ text: props.field ? `${body.label} changed.` : `Added the field ${body.label}.`, eventId });
    emit('saved');
  } catch (problem) {
    wrong.value = problem instanceof ApiProblem ? (problem.problem.fields ?? {}) : {};
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <SidePanel :label="title" @close="emit('close')">
    <form class="field" @submit.prevent="save" @keydown.esc="emit('close')">
      <v-text-field
        v-model="draft.label"
        label="Name"
        required
        maxlength="80"
        autofocus
        placeholder="Fleet size"
        :error-messages="wrong.label"
      />
      <v-select v-model="draft.kind" label="Kind" :items="kinds" :disabled="field !== null" />
      <v-textarea
        v-if="hasChoices(draft.kind)"
        v-model="draft.choices"
        label="Choices, one on each line"
        rows="3"
        auto-grow
        :error-messages="wrong.options"
      />
      <v-text-field
        v-if="draft.kind === 'money'"
        v-model="draft.currency"
        label="Currency"
        maxlength="3"
        :error-messages="wrong.options"
      />
      <template v-if="draft.kind === 'formula'">
        <v-textarea
          v-model="draft.formula"
          label="Formula"
          rows="2"
          auto-grow
          placeholder="Bikes * 'Price a bike'"
          :error-messages="wrong.formula"
        />
        <p class="soft">
          Use the names of other fields, in single quotes where they have spaces. For example:
          <code>days(today, 'Lease ends')</code> or <code>if Bikes > 10 then "large" else "small"</code>.
        </p>
      </template>
      <v-text-field
        v-if="mayBegin(draft) && !hasChoices(draft.kind)"
        v-model="draft.preset"
        label="New records begin with"
        placeholder="Nothing"
        maxlength="500"
        :error-messages="wrong.preset"
      />
      <v-select
        v-else-if="mayBegin(draft)"
        v-model="draft.preset"
        label="New records begin with"
        :items="[
          { value: '', title: 'Nothing' },
          ...bodyOf(draft).options.map((value) => ({ value, title: value })),
        ]"
        :error-messages="wrong.preset"
      />
      <v-combobox
        :model-value="draft.tab || null"
        label="Tab"
        :items="tabs"
        placeholder="On the card"
        persistent-placeholder
        maxlength="60"
        @update:model-value="draft.tab = $event ?? ''"
      />
      <v-combobox
        :model-value="draft.part || null"
        label="Heading"
        :items="parts"
        placeholder="None"
        persistent-placeholder
        maxlength="60"
        @update:model-value="draft.part = $event ?? ''"
      />
      <v-text-field v-model="draft.help" label="Help" placeholder="What to enter here" maxlength="300" />
      <v-select
        v-if="whatFor.length"
        v-model="draft.onlyFor"
        label="Only for"
        :items="whatFor"
        multiple
        placeholder="All of them"
        persistent-placeholder
        :error-messages="wrong.onlyFor"
      />
      <v-select v-model="draft.seenBy" label="Who may see it" :items="LEVEL_ITEMS" />
      <v-select
        v-if="draft.kind !== 'formula'"
        v-model="draft.changedBy"
        label="Who may change it"
        :items="LEVEL_ITEMS"
        :error-messages="wrong.changedBy"
      />
      <v-checkbox
        v-if="draft.kind !== 'formula'"
        v-model="draft.isAsked"
        label="Worth asking while it is empty"
      />
      <v-checkbox
        v-if="mayBeUnique(draft.kind)"
        v-model="draft.isUnique"
        label="No two records may have the same"
      />
      <v-checkbox v-if="record === 'person'" v-model="draft.isPersonal" label="Show under Personal" />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="ways">
        <v-btn class="fill" type="submit" :disabled="isBusy">{{ field ? 'Save' : 'Add a field' }}</v-btn>
        <v-btn class="word" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.field {
  display: grid;
  gap: 10px;
  padding: 12px 24px 24px;
}
.ways {
  display: flex;
  gap: 16px;
  align-items: center;
}
p {
  margin: 0;
}
@media (max-width: 700px) {
  .field {
    padding: 10px 14px 20px;
  }
}
</style>
