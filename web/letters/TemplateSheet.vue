<script setup lang="ts">
import type { LetterTemplate } from '@emporikon/contract/letters';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import LeaveDialog from '../kit/LeaveDialog.vue';
import RecordPicker from '../kit/RecordPicker.vue';
import type { RecordValue } from '../kit/forms';
import RichText from '../kit/RichText.vue';
import { api, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** One template as it is written, and as it reads for one person. */
const props = defineProps<{ template: LetterTemplate | null }>();
const emit = defineEmits<{ saved: [id: string | null] }>();
const undo = useUndo();
const blank = { name: '', folder: '', shortcut: '', shared: false, subject: '', html: '' };
const begun = props.template ? { ...props.template, shortcut: props.template.shortcut ?? '' } : blank;
const draft = ref({
  ...{ name: begun.name, folder: begun.folder, shortcut: begun.shortcut, shared: begun.shared },
  ...{ subject: begun.subject, html: begun.html },
});
const isBusy = ref(false);
const error = ref('');
const text = useTemplateRef('text');
const isChanged = computed(() =>
  (Object.keys(draft.value) as (keyof typeof draft.value)[]).some((key) => draft.value[key] !== begun[key]),
);

const { data: fields } = useFetched(() => api('GET /api/letter-fields'), ['custom_fields']);
const KINDS = {
  person: 'Person',
  company: 'Company',
  lead: 'Lead',
  deal: 'Deal',
  project: 'Project',
  case: 'Case',
  me: 'You',
} as const;
const fieldItems = computed(() =>
  (fields.value?.items ?? []).map(({ path, label, kind }) => ({
    value: path,
    title: kind === 'person' ? `${KINDS[kind]}: ${label.toLowerCase()}` : label,
  })),
);
const field = ref<string | null>(null);
function insert(path: string | null): void {
  if (!path) return;
  text.value?.insert(`{{ ${path} }}`);
  field.value = null;
}

/** The person it is read for. */
const reader = ref<RecordValue | null>(null);
const read = ref<{ problems: string[]; subject: string; html: string; missing: string[] } | null>(null);
const PAUSE_MS = 400;
let timer: ReturnType<typeof setTimeout> | undefined;
async function check(): Promise<void> {
  const { subject, html } = draft.value;
  const about = reader.value?.id ? { personId: reader.value.id } : {};
  try {
    read.value = await api('POST /api/letter-templates/check', { body: { subject, html, about } });
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
watch(
  [() => draft.value.subject, () => draft.value.html, reader],
  () => {
    clearTimeout(timer);
    timer = setTimeout(() => void check(), PAUSE_MS);
  },
  { immediate: true },
);

async function save(): Promise<boolean> {
  if (isBusy.value) return false;
  isBusy.value = true;
  error.value = '';
  const body = { ...draft.value, shortcut: draft.value.shortcut.trim() || null };
  try {
    const done = props.template
      ? await api('PATCH /api/letter-templates/:id', {
          params: { id: props.template.id },
          body: { version: props.template.version, ...body },
        })
      : await api('POST /api/letter-templates', { body });
    undo.tell({ text: 'Template saved.', eventId: done.eventId });
    Object.assign(begun, draft.value);
    emit('saved', props.template?.id ?? ('id' in done ? String(done.id) : null));
    return true;
  } catch (problem) {
    error.value = wordsOf(problem);
    return false;
  } finally {
    isBusy.value = false;
  }
}
async function remove(): Promise<void> {
  if (!props.template) return;
  try {
    const { eventId } = await api('DELETE /api/letter-templates/:id', { params: { id: props.template.id } });
    undo.tell({ text: `Deleted the template ${props.template.name}.`, eventId });
    Object.assign(begun, draft.value);
    emit('saved', null);
  } catch (problem) {
    undo.fail(problem);
  }
}

/** What is not saved is not lost without being asked. */
const leave = ref<((go: boolean) => void) | null>(null);
onBeforeRouteLeave(() => (isChanged.value ? new Promise<boolean>((go) => (leave.value = go)) : true));
function decide(go: boolean): void {
  leave.value?.(go);
  leave.value = null;
}
</script>

<template>
  <div class="sheet-of">
    <form class="write" @submit.prevent="save">
      <div class="pair">
        <v-text-field v-model="draft.name" label="Name" required maxlength="120" autocomplete="off" />
        <v-text-field v-model="draft.folder" label="Folder" maxlength="80" autocomplete="off" />
        <v-text-field
          v-model="draft.shortcut"
          label="Shortcut"
          prefix=";"
          maxlength="30"
          autocomplete="off"
          hint="Typed in a letter, it brings this template"
          persistent-hint
        />
        <v-checkbox v-model="draft.shared" label="For the whole team" />
      </div>
      <v-text-field v-model="draft.subject" label="Subject" maxlength="300" autocomplete="off" />
      <RichText
        ref="text"
        v-model="draft.html"
        label="Text of the template"
        placeholder="Dear {{ person.first_name }},"
      >
        <template #tools>
          <v-autocomplete
            v-model="field"
            class="inline-edit field"
            :items="fieldItems"
            aria-label="Insert a field"
            placeholder="Insert a field"
            @update:model-value="insert"
          />
        </template>
      </RichText>
      <p class="soft tip">
        A field with another word where it is empty:
        <code v-pre>{{ person.first_name | default: "there" }}</code>. A sentence only where something is
        known: <code v-pre>{% if company.name %}…{% endif %}</code>.
      </p>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <div class="do">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!isChanged">Save</v-btn>
        <v-btn v-if="template" class="word" @click="remove">Delete</v-btn>
      </div>
    </form>
    <section class="reads" aria-label="How it reads">
      <h2>How it reads</h2>
      <p v-if="reader">
        For <b>{{ reader.label }}</b> <v-btn class="word" @click="reader = null">Somebody else</v-btn>
      </p>
      <RecordPicker
        v-else
        kind="person"
        label="For"
        placeholder="By name"
        @pick="reader = { id: $event.id, label: $event.label }"
      />
      <template v-if="read">
        <p v-for="problem in read.problems" :key="problem" class="wrong">{{ problem }}</p>
        <p v-if="reader && read.missing.length" class="wait">Empty for them: {{ read.missing.join(', ') }}</p>
        <template v-if="!read.problems.length">
          <p>
            <b>{{ read.subject || 'No subject' }}</b>
          </p>
          <RichText :key="read.html" :model-value="read.html" label="The template filled in" is-read-only />
        </template>
      </template>
    </section>
    <LeaveDialog :is-asking="leave !== null" what="Parts of this template" @answer="decide" />
  </div>
</template>

<style scoped>
.sheet-of {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(240px, 2fr);
}
.write {
  display: grid;
  align-content: start;
  gap: 10px;
  padding: 16px 24px;
  background: var(--sheet);
  border-right: 1px solid var(--rule);
}
.reads {
  padding: 16px 20px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 16px;
}
.field {
  width: 170px;
}
.tip {
  font-size: 13px;
  margin: 0;
}
.wait {
  color: var(--wait);
}
.do {
  display: flex;
  gap: 14px;
  align-items: center;
}
h2 {
  margin: 0 0 8px;
}
@media (max-width: 1100px) {
  .sheet-of {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
