<script setup lang="ts">
import type { Form } from '@emporikon/contract/forms';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import TagField from '../shell/TagField.vue';
import { useUndo } from '../shell/undo';
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
const { data: team } = useFetched(() => api('GET /api/users'), []);
const { data: lists } = useFetched(() => api('GET /api/lists'), ['lists']);
const draft = ref<Form | null>(null);
const isBusy = ref(false);
let began = '';
const mayDesign = computed(() => session.me?.role !== 'rep');
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
        >See it as people do</a
      >
      <RouterLink v-else :to="`/forms/${id}/desk`" class="quiet-link">Fill it in</RouterLink>
      <button v-if="mayDesign" class="word" @click="save({ active: !draft.active })">
        {{ draft.active ? 'Retire it' : 'Open it again' }}
      </button>
    </div>
    <p v-if="!mayDesign" class="soft">Managers change forms; you see how this one is made.</p>
    <fieldset :disabled="!mayDesign" class="columns">
      <section>
        <h2>What it asks</h2>
        <FieldLines v-model="draft.fields" />
      </section>
      <section class="rules">
        <h2>What it does</h2>
        <label class="field"><span class="cap">Name</span><input v-model="draft.name" /></label>
        <label v-if="draft.kind === 'public'" class="field"
          ><span class="cap">Address, after /f/</span><input v-model="draft.slug"
        /></label>
        <label class="field"
          ><span class="cap">Knows a person again by</span>
          <select v-model="draft.recognise">
            <option value="email">their email</option>
            <option value="phone">their phone</option>
            <option value="both">email and phone together</option>
            <option value="ask">nothing, always ask</option>
          </select></label
        >
        <label class="check"
          ><input v-model="draft.filesItself" type="checkbox" /> files by itself when it is sure who it
          is</label
        >
        <label class="field"
          ><span class="cap">Makes</span>
          <select v-model="draft.leadStatus">
            <option value="new">a new lead</option>
            <option value="working">a lead that is worked on</option>
            <option value="none">no lead</option>
          </select></label
        >
        <label class="field"><span class="cap">Lead source</span><input v-model="draft.source" /></label>
        <label class="field"
          ><span class="cap">Owner</span>
          <select v-model="draft.ownerId">
            <option :value="null">whoever files it</option>
            <option v-for="one in team?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select></label
        >
        <label class="field"
          ><span class="cap">List</span>
          <select v-model="draft.listId">
            <option :value="null">none</option>
            <option v-for="one in lists?.items ?? []" :key="one.id" :value="one.id">{{ one.name }}</option>
          </select></label
        >
        <TagField v-model="draft.tags" />
        <template v-if="draft.kind === 'public'">
          <label class="field"
            ><span class="cap">Consent asked, with a box to tick and a mail to confirm</span
            ><textarea v-model="draft.consent" rows="2" placeholder="nothing is asked"></textarea>
          </label>
          <label class="field"
            ><span class="cap">Said when it was sent</span
            ><textarea v-model="draft.thanks" rows="2"></textarea>
          </label>
          <p class="soft">
            To put it into a page: <code>{{ snippet }}</code>
          </p>
        </template>
        <v-btn v-if="mayDesign" class="fill" :loading="isBusy" @click="save()">Save the form</v-btn>
      </section>
    </fieldset>
    <Submissions :about="{ formId: id }" title="Filled in" />
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
