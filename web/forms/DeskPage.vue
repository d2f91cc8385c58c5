<script setup lang="ts">
import { vFocus } from '../kit/focus';
import { computed, nextTick, ref, watch, type Component } from 'vue';
import { useRoute } from 'vue-router';
import { VSelect } from 'vuetify/components/VSelect';
import { VTextarea } from 'vuetify/components/VTextarea';
import { VTextField } from 'vuetify/components/VTextField';
import DateField from '../kit/DateField.vue';
import { api, ApiProblem, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** A form for colleagues: a few fields, a known person's filled in before, "save and next". */
const props = defineProps<{ id: string }>();
const route = useRoute();
const undo = useUndo();
const { data: form, error: trouble } = useFetched(
  () => api('GET /api/forms/:id', { params: { id: props.id } }),
  ['forms'],
);
const answers = ref<Record<string, string>>({});
const wrong = ref<Record<string, string>>({});
const error = ref('');
const count = ref(0);
const isBusy = ref(false);
type Field = NonNullable<typeof form.value>['fields'][number];
const controlOf = (field: Field): Component =>
  field.kind === 'text'
    ? VTextarea
    : field.kind === 'choice' || field.kind === 'yes or no'
      ? VSelect
      : field.kind === 'date'
        ? DateField
        : VTextField;
function settingsOf(field: Field): Record<string, unknown> {
  if (field.kind === 'choice') return { items: field.options, clearable: !field.required };
  if (field.kind === 'yes or no') return { items: ['yes', 'no'], clearable: !field.required };
  if (field.kind === 'text') return { rows: 3 };
  return field.kind === 'date' ? {} : { type: TYPES[field.field ?? ''] ?? 'text' };
}
const q = ref('');
const found = ref<{ id: string; label: string; hint: string }[]>([]);
const known = ref<{ id: string; name: string } | null>(null);
let timer: ReturnType<typeof setTimeout> | undefined;

watch(q, (text) => {
  clearTimeout(timer);
  if (text.trim().length < 2) return void (found.value = []);
  timer = setTimeout(async () => {
    const { items } = await api('GET /api/search', { query: { q: text, kind: 'person', limit: 6 } }).catch(
      () => ({
        items: [],
      }),
    );
    found.value = items;
  }, 120);
});

async function choose(id: string): Promise<void> {
  const person = await api('GET /api/people/:id', { params: { id } });
  known.value = { id, name: person.fullName.value ?? '' };
  found.value = [];
  q.value = '';
  const contact = (kind: string): string =>
    person.contacts.find((contact) => contact.kind === kind)?.value ?? '';
  const values: Record<string, string> = {
    fullName: person.fullName.value ?? '',
    jobTitle: person.jobTitle.value ?? '',
    companyName: person.company?.name ?? '',
    email: contact('email'),
    phone: contact('phone'),
    url: contact('url'),
    address: person.address.value ?? '',
    birthday: person.birthday ?? '',
    ...Object.fromEntries(person.custom.map((one) => [`custom:${one.key}`, one.value])),
  };
  for (const field of form.value?.fields ?? []) {
    const value = field.field ? values[field.field] : '';
    if (value) answers.value[field.name] = value;
  }
}
watch(
  form,
  () => {
    if (typeof route.query.person === 'string' && !known.value) void choose(route.query.person);
  },
  { once: true },
);

async function save(): Promise<void> {
  if (isBusy.value) return;
  isBusy.value = true;
  error.value = '';
  wrong.value = {};
  try {
    const { person, filed } = await api('POST /api/forms/:id/submissions', {
      params: { id: props.id },
      body: { answers: answers.value, ...(known.value ? { personId: known.value.id } : {}) },
    });
    count.value++;
    undo.tell({
      text: filed && person ? `Saved on ${person.name}.` : 'Saved; it waits in Arrivals.',
      eventId: null,
      links: person
        ? [{ text: 'Open the dossier', to: `/people/${person.id}` }]
        : [{ text: 'Open Arrivals', to: '/arrivals' }],
    });
    answers.value = {};
    known.value = null;
    await nextTick();
    document.querySelector<HTMLElement>('[data-first] input, [data-first] textarea')?.focus();
  } catch (problem) {
    wrong.value = problem instanceof ApiProblem ? (problem.problem.fields ?? {}) : {};
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
const TYPES: Record<string, string> = { email: 'email', phone: 'tel' };
const fields = computed(() => form.value?.fields ?? []);
</script>

<template>
  <div v-if="form" class="page desk">
    <div class="page-head">
      <h1>{{ form.name }}</h1>
      <span class="soft" role="status">{{ count ? `${count} saved` : 'For colleagues' }}</span>
    </div>
    <div class="who">
      <v-text-field
        v-model="q"
        class="field"
        label="Existing person"
        type="search"
        :placeholder="known ? known.name : 'Name'"
      />
      <ul v-if="found.length">
        <li v-for="one in found" :key="one.id">
          <v-btn class="word" @click="choose(one.id)">{{ one.label }}</v-btn>
          <span class="soft">{{ one.hint }}</span>
        </li>
      </ul>
      <p v-if="known" class="soft">
        Filled in for {{ known.name }}.
        <v-btn class="word" @click="((known = null), (answers = {}))">Somebody else</v-btn>
      </p>
    </div>
    <form @submit.prevent="save">
      <component
        :is="controlOf(field)"
        v-for="(field, index) in fields"
        :key="field.name"
        v-model="answers[field.name]"
        v-focus="index === 0"
        class="field"
        :data-first="index === 0 ? '' : undefined"
        :label="field.required ? `${field.label} (required)` : field.label"
        :hint="field.help"
        persistent-hint
        :error-messages="wrong[field.name] ? `${field.label} ${wrong[field.name]}` : []"
        v-bind="settingsOf(field)"
      />
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <v-btn class="fill" type="submit" :loading="isBusy">Save and next</v-btn>
    </form>
  </div>
  <div v-else class="page">
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.desk {
  max-width: 1000px;
}
form {
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  align-items: start;
  column-gap: 24px;
}
form > :is(.v-textarea, .wrong) {
  grid-column: 1 / -1;
}
form > .fill {
  justify-self: start;
  grid-column: 1 / -1;
}
form,
.who {
  display: grid;
  gap: 10px;
  padding-bottom: 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
