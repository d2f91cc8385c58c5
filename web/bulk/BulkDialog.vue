<script setup lang="ts">
import type { BulkChange, BulkPreview } from '@emporikon/contract/bulk';
import type { BulkKind } from '@emporikon/core/bulk/types';
import type { Query } from '@emporikon/core/query/types';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { vFocus } from '../kit/focus';
import FormControl from '../kit/FormControl.vue';
import { blankValues, type FormValues } from '../kit/forms';
import { api, wordsOf } from '../shell/api';
import { plainNumber } from '../shell/format';
import { formFields, stepsOf } from './steps';
import { useBulk } from './useBulk';
import { useChoices } from './useChoices';
import { countOf } from './words';

/** Says what is to change on many records, shows what that comes to, and begins it. */
const props = defineProps<{
  kind: BulkKind;
  /** The selection, where it is not all of a query. */
  ids: readonly string[];
  query: Query | null;
  count: number;
  /** The field to begin with. */
  first: string;
  /** What is filled in already. */
  given?: FormValues;
}>();
const emit = defineEmits<{ close: []; begun: [] }>();
const bulk = useBulk();
const choices = useChoices(props.kind);
const values = ref<FormValues>({ ...props.given });
const fields = computed(() => (choices.value ? formFields(props.kind, choices.value, values.value) : []));
const shown = computed(() => blankValues(fields.value, values.value));
const steps = computed(() => (choices.value ? stepsOf(props.kind, values.value, choices.value) : []));
const previewed = shallowRef<{ change: BulkChange; preview: BulkPreview } | null>(null);
const isBusy = ref(false);
const error = ref('');

/** A letter typed is not yet a preview asked for. */
const PAUSE_MS = 250;
let timer: ReturnType<typeof setTimeout> | undefined;
let asked = 0;
async function look(): Promise<void> {
  const mine = ++asked;
  try {
    const on = props.query ? { query: props.query as never } : { ids: [...props.ids] };
    const answer = await api('POST /api/bulk-changes', {
      body: { kind: props.kind, on, steps: [...steps.value] },
    });
    if (mine === asked) previewed.value = answer;
  } catch (problem) {
    if (mine === asked) error.value = wordsOf(problem);
  }
  if (mine === asked) isBusy.value = false;
}
watch(steps, (now, before) => {
  if (JSON.stringify(now) === JSON.stringify(before)) return;
  clearTimeout(timer);
  asked++;
  previewed.value = null;
  error.value = '';
  isBusy.value = now.length > 0;
  if (now.length) timer = setTimeout(() => void look(), PAUSE_MS);
});
onScopeDispose(() => clearTimeout(timer));

const isStarting = ref(false);
async function begin(): Promise<void> {
  const { change, preview } = previewed.value ?? {};
  if (!change || !preview?.change || isStarting.value) return;
  isStarting.value = true;
  await bulk.begin(change.id);
  emit('begun');
  emit('close');
}
const summary = computed(() => {
  const { change = 0, stay = 0 } = previewed.value?.preview ?? {};
  return [`${plainNumber(change)} will change`, stay ? `${plainNumber(stay)} are so already` : '']
    .filter(Boolean)
    .join(', ');
});
/** The field that was asked for, or the first where it is not offered here. */
const isFirst = (name: string): boolean => name === (props.first || fields.value[0]?.name);
</script>

<template>
  <v-dialog
    :model-value="true"
    :aria-label="`Change ${countOf(kind, count)}`"
    width="680"
    scrollable
    @update:model-value="emit('close')"
  >
    <form
      class="sheet"
      novalidate
      @submit.prevent="begin"
      @keydown.ctrl.enter.prevent="begin"
      @keydown.meta.enter.prevent="begin"
    >
      <h2>Change {{ countOf(kind, count) }}</h2>
      <span v-if="!choices" class="ghost"></span>
      <div class="fields">
        <FormControl
          v-for="field in fields"
          :key="field.name"
          v-focus="isFirst(field.name)"
          :field="field"
          :model-value="shown[field.name]"
          error=""
          @update:model-value="values = { ...values, [field.name]: $event }"
        />
      </div>
      <div class="preview" role="status" aria-label="Preview">
        <p v-if="error" class="wrong">{{ error }}</p>
        <span v-else-if="isBusy" class="ghost"></span>
        <p v-else-if="!previewed" class="soft">
          Fill in what should change. Everything else stays. You see what it comes to before anything is
          changed, and can undo it as a whole.
        </p>
        <template v-else>
          <p>
            <b>{{ summary }}</b>
          </p>
          <p v-for="reason in previewed.preview.refuse" :key="reason.why" class="late">
            {{ plainNumber(reason.count) }} cannot: {{ reason.why }}
            <span class="soft"
              >{{ reason.samples.map(({ name }) => name).join(', ')
              }}<template v-if="reason.count > reason.samples.length"> …</template></span
            >
          </p>
          <p v-if="previewed.preview.unseen.length" class="late">
            No longer seen by
            {{
              previewed.preview.unseen.map(({ name, count: n }) => `${name} (${plainNumber(n)})`).join(', ')
            }}
          </p>
          <ul>
            <li v-for="sample in previewed.preview.samples.slice(0, 3)" :key="sample.id">
              <b>{{ sample.name }}</b> <span class="soft">{{ sample.said }}</span>
            </li>
          </ul>
        </template>
      </div>
      <div class="do">
        <v-btn class="fill" type="submit" :loading="isStarting" :disabled="!previewed?.preview.change"
          >Change {{ countOf(kind, previewed?.preview.change ?? count) }}
          <span class="key keys">Ctrl Enter</span></v-btn
        >
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </form>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: grid;
  gap: 12px;
  padding: 18px 22px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  overflow-y: auto;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 16px;
  align-items: start;
}
.preview {
  min-height: 112px;
  padding: 10px 12px;
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.preview p {
  margin: 0 0 4px;
}
.preview ul {
  margin: 4px 0 0;
  padding: 0;
  list-style: none;
}
.preview li {
  padding: 2px 0;
}
.keys {
  margin-left: 8px;
  color: inherit;
  border-color: currentcolor;
  background: none;
}
.do {
  display: flex;
  gap: 10px;
}
@media (max-width: 600px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
