<script setup lang="ts">
import type { Form } from '@emporikon/contract/forms';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import TagField from '../kit/TagField.vue';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';
import FieldLines from './FieldLines.vue';
import Submissions from './Submissions.vue';

const props = defineProps<{ id: string }>();
const session = useSession();
const undo = useUndo();
const { data, error, load } = useFetched(
  () => api('GET /api/forms/:id', { params: { id: props.id } }),
  ['forms'],
  () => [props.id],
);
const team = useTeam();
const { data: lists } = useFetched(() => api('GET /api/lists'), ['lists']);
const { data: offered } = useFetched(() => api('GET /api/purposes'), ['purposes']);
const purposes = computed(() => (offered.value?.items ?? []).filter(({ kind }) => kind === 'mail'));
const draft = ref<Form | null>(null);
const isBusy = ref(false);
let began = '';
const mayDesign = computed(() => session.may('settings.channels'));
const snippet = computed(
  () => `<script src="${location.origin}/f/${draft.value?.slug ?? ''}/embed.js"></` + 'script>',
);
watch(
  data,
  (form) => {
    if (!form) return;
    // What is being designed keeps the version it began from: a colleague's save in between is told, never written over.
    const isTouched = draft.value !== null && JSON.stringify(draft.value) !== began;
    if (isTouched) return;
    began = JSON.stringify(form);
    draft.value = JSON.parse(began) as Form;
  },
  { immediate: true },
);

async function save(patch: Partial<Form> = {}): Promise<void> {
  const form = draft.value;
  if (!form) return;
  isBusy.value = true;
  try {
    const { eventId } = await api('PATCH /api/forms/:id', {
      params: { id: props.id },
      body: { ...form, ...patch },
    });
    undo.tell({ text: `Saved the form ${form.name}.`, eventId });
    began = JSON.stringify(form);
    await load();
  } catch (problem) {
    undo.fail(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <div v-if="draft" class="page">
    <div class="page-head">
      <h1>{{ draft.name }}</h1>
      <a v-if="draft.kind === 'public'" :href="`/f/${draft.slug}`" class="quiet-link" target="_blank"
        >Preview</a
      >
      <RouterLink v-else :to="`/forms/${id}/desk`" class="quiet-link">Fill in</RouterLink>
      <v-btn v-if="mayDesign" class="word" @click="save({ active: !draft.active })">
        {{ draft.active ? 'Retire' : 'Reopen' }}
      </v-btn>
      <v-btn v-if="mayDesign" class="fill" :loading="isBusy" @click="save()">Save the form</v-btn>
    </div>
    <p v-if="!mayDesign" class="soft">Only managers can change forms.</p>
    <fieldset :disabled="!mayDesign" class="columns">
      <section>
        <h2>Questions</h2>
        <FieldLines v-model="draft.fields" />
      </section>
      <section class="rules">
        <h2>After it is sent</h2>
        <v-text-field v-model="draft.name" class="field" label="Name" />
        <v-text-field
          v-if="draft.kind === 'public'"
          v-model="draft.slug"
          class="field"
          label="Address, after /f/"
        />
        <v-select
          v-model="draft.recognise"
          class="field"
          label="Recognises a person by"
          :items="[
            { value: 'email', title: 'Email' },
            { value: 'phone', title: 'Phone' },
            { value: 'both', title: 'Email and phone together' },
            { value: 'ask', title: 'Nothing; always ask' },
          ]"
        />
        <v-checkbox
          v-model="draft.filesItself"
          class="check"
          label="File automatically when it is sure who it is"
        />
        <v-select
          v-model="draft.leadStatus"
          class="field"
          label="Creates"
          :items="[
            { value: 'new', title: 'A new lead' },
            { value: 'working', title: 'A lead in progress' },
            { value: 'case', title: 'A case' },
            { value: 'none', title: 'No lead and no case' },
          ]"
        />
        <v-text-field v-model="draft.source" class="field" label="Lead source" />
        <v-select
          v-model="draft.ownerId"
          class="field"
          label="Owner"
          :items="[
            { value: null, title: 'Whoever files it' },
            ...team.map((one) => ({ value: one.id, title: one.name })),
          ]"
        />
        <v-select
          v-model="draft.listId"
          class="field"
          label="List"
          :items="[
            { value: null, title: 'None' },
            ...(lists?.items ?? []).map((one) => ({ value: one.id, title: one.name })),
          ]"
        />
        <TagField v-model="draft.tags" />
        <template v-if="draft.kind === 'public'">
          <v-textarea
            v-model="draft.consent"
            class="field"
            label="Consent (a box to tick, confirmed by mail)"
            rows="2"
            placeholder="Leave empty to ask for no consent"
          />
          <v-select
            v-if="draft.consent.trim()"
            v-model="draft.purposeIds"
            class="field"
            label="What they agree to"
            multiple
            :placeholder="
              purposes
                .filter((one) => one.isDefault)
                .map((one) => one.name)
                .join(', ')
            "
            :items="purposes.map((one) => ({ value: one.id, title: one.name }))"
          />
          <v-textarea v-model="draft.thanks" class="field" label="Message after sending" rows="2" />
          <p class="soft">
            To embed it in a page: <code>{{ snippet }}</code>
          </p>
        </template>
      </section>
    </fieldset>
    <Submissions :about="{ formId: id }" title="Submissions" />
  </div>
  <div v-else class="page">
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <span v-for="n in 6" v-else :key="n" class="ghost"></span>
  </div>
</template>

<style scoped>
.columns {
  border: 0;
  padding: 0;
  margin: 0 0 18px;
  display: grid;
  grid-template-columns: 1.6fr 1fr;
  gap: 20px 36px;
}
.rules {
  display: grid;
  gap: 8px;
  align-content: start;
}
.check {
  display: flex;
  gap: 8px;
  min-height: 24px;
}
code {
  overflow-wrap: anywhere;
  background: var(--lit);
  color: var(--ink);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
