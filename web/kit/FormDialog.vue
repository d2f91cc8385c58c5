<script setup lang="ts">
import { vFocus } from './focus';
import { useForm } from '@tanstack/vue-form';
import type { ZodType } from 'zod';
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { ApiProblem, wordsOf } from '../shell/api';
import { useStored } from '../shell/browser';
import FormControl from './FormControl.vue';
import { blankValues, isChanged, problemsByField, type FormField, type FormValues } from './forms';

/**
 * A short form in a dialog. What is typed is kept on this device until it is saved or discarded; leaving asks. What is
 * wrong is said at its field, by the schema of the contract before it is sent and by the server after.
 */
const props = defineProps<{
  title: string;
  fields: readonly FormField[];
  /** What the button says. */
  submit: string;
  /** Under which name an unsaved form is kept. */
  draft: string;
  /** The body that is sent, of what stands in the fields. May throw an error in words. */
  toBody: (values: FormValues) => unknown;
  /** The contract's schema of that body. */
  schema: ZodType;
  /** Names of the body that belong to a field of another name. */
  aliases?: Readonly<Record<string, string>>;
  /** Values to begin with. */
  given?: FormValues;
  save: (body: never) => Promise<void>;
}>();
const emit = defineEmits<{ close: [] }>();
const box = useTemplateRef('box');
const begun = blankValues(props.fields, props.given ?? {});
const kept = useStored<FormValues | null>(`emporikon.form.${props.draft}`, null);
const isFromDraft = ref(kept.value !== null && isChanged({ ...begun, ...kept.value }, begun));
const isLeaving = ref(false);
const isBusy = ref(false);
const error = ref('');
const wrong = ref<Record<string, string>>({});

const form = useForm({
  defaultValues: { ...begun, ...kept.value } as FormValues,
  onSubmit: async ({ value }) => {
    if (isBusy.value) return;
    isBusy.value = true;
    try {
      const body = props.toBody(value);
      const checked = props.schema.safeParse(body);
      wrong.value = checked.success ? {} : problemsByField(checked.error.issues, props.fields, props.aliases);
      error.value = wrong.value[''] ?? '';
      if (!checked.success) return void focusFirstWrong();
      await props.save(body as never);
      kept.value = null;
      emit('close');
    } catch (problem) {
      const said = problem instanceof ApiProblem ? (problem.problem.fields ?? {}) : {};
      const issues = Object.entries(said).map(([name, message]) => ({ path: [name], message }));
      wrong.value = problemsByField(issues, props.fields, props.aliases);
      error.value = wordsOf(problem);
    } finally {
      isBusy.value = false;
    }
  },
});
const values = form.useStore((state) => state.values);
const isDirty = computed(() => isChanged(values.value, begun));

function set(name: string, value: unknown): void {
  form.setFieldValue(name as never, value as never);
  wrong.value = { ...wrong.value, [name]: '' };
  kept.value = isChanged(values.value, begun) ? { ...values.value } : null;
}
async function focusFirstWrong(): Promise<void> {
  await nextTick();
  box.value?.querySelector<HTMLElement>('.v-input--error :is(input:not([type=hidden]), textarea)')?.focus();
}
function startAgain(): void {
  isFromDraft.value = false;
  kept.value = null;
  form.reset({ ...begun });
}
function leave(): void {
  if (isDirty.value && !isBusy.value) isLeaving.value = true;
  else emit('close');
}
function discard(): void {
  kept.value = null;
  emit('close');
}
onMounted(
  () =>
    void nextTick(() => box.value?.querySelector<HTMLElement>('input:not([type=hidden]), textarea')?.focus()),
);
</script>

<template>
  <v-dialog :model-value="true" :aria-label="title" width="600" @update:model-value="leave">
    <form ref="box" class="sheet" novalidate @submit.prevent="form.handleSubmit()">
      <h2>{{ title }}</h2>
      <p v-if="isFromDraft" class="soft">
        You began this earlier. <v-btn class="word" @click="startAgain">Start again</v-btn>
      </p>
      <slot />
      <div class="fields">
        <FormControl
          v-for="field in fields"
          :key="field.name"
          :field="field"
          :class="{ wide: field.kind === 'long' || field.kind === 'tags' }"
          :model-value="values[field.name]"
          :error="wrong[field.name] ?? ''"
          @update:model-value="set(field.name, $event)"
        />
      </div>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div v-if="isLeaving" class="do" role="alert">
        <span>Not saved yet. It is kept as a draft on this device.</span>
        <v-btn v-focus class="quiet" @click="isLeaving = false">Continue</v-btn>
        <v-btn class="quiet" @click="emit('close')">Keep the draft</v-btn>
        <v-btn class="quiet" @click="discard">Discard</v-btn>
      </div>
      <div v-else class="do">
        <v-btn class="fill" type="submit" :loading="isBusy">{{ submit }}</v-btn>
        <v-btn class="quiet" @click="leave">Cancel</v-btn>
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
.wide {
  grid-column: 1 / -1;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
}
p {
  margin: 0;
}
@media (max-width: 600px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
