<script setup lang="ts">
import type { CustomField } from '@emporikon/contract/fields';
import { OWN_RECORDS, type OwnRecord } from '@emporikon/core/fields/own';
import { STANDINGS } from '@emporikon/core/lifecycle/standing';
import { COMPANY_KINDS } from '@emporikon/core/lifecycle/terms';
import { computed, ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { useTerms } from '../terms/useTerms';
import FieldForm from './FieldForm.vue';
import { KIND_WORDS, marksOf, RECORD_WORDS } from './fieldDraft';

/** Fields of the organisation's own, for each kind of record. */
const undo = useUndo();
const session = useSession();
const record = ref<OwnRecord>('person');
const { data, load } = useFetched(() => api('GET /api/fields'), ['custom_fields']);
const { data: pipelines } = useFetched(() => api('GET /api/pipelines'), ['pipelines']);
const fields = computed(() => (data.value?.items ?? []).filter((one) => one.record === record.value));
const records = OWN_RECORDS.map((value) => ({ value, title: RECORD_WORDS[value] }));
const form = ref<{ field: CustomField | null } | null>(null);

const { nameOf } = useTerms();
const asTerm = (value: string): { value: string; title: string } => ({ value, title: nameOf(value) });
const whatFor = computed(() => {
  if (record.value === 'person') return STANDINGS.map(asTerm);
  if (record.value === 'company') return COMPANY_KINDS.map(asTerm);
  return record.value === 'deal'
    ? (pipelines.value?.items ?? []).map(({ id, name }) => ({ value: id, title: name }))
    : [];
});
const called = (id: string): string => whatFor.value.find(({ value }) => value === id)?.title ?? id;
const used = (of: 'tab' | 'part'): string[] => [
  ...new Set(fields.value.map((one) => one[of]).filter(Boolean)),
];
const placeOf = ({ tab, part, isPersonal }: CustomField): string =>
  [isPersonal ? 'Personal' : tab || 'Card', part].filter(Boolean).join(', ');
const detailsOf = ({ kind, options, formula }: CustomField): string =>
  kind === 'formula' ? formula : options.join(', ');

async function change(
  field: CustomField,
  body: { active?: boolean; place?: number },
  text: string,
): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/fields/:id', {
      params: { id: field.id },
      body: { version: field.version, ...body },
    });
    undo.tell({ text, eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
const move = (field: CustomField, index: number, by: number): Promise<void> =>
  change(field, { place: index + 1 + by }, `${field.label} moved.`);
async function saved(): Promise<void> {
  form.value = null;
  await load();
}
</script>

<template>
  <PageHead
    title="Fields"
    help="Fields of your own, beside the usual ones. A retired field keeps its values, and they are still shown."
  />
  <div class="choose">
    <v-select v-model="record" label="Fields of" :items="records" />
    <v-btn v-if="session.may('settings.fields')" class="fill" @click="form = { field: null }"
      >Add a field</v-btn
    >
  </div>
  <v-table v-if="fields.length" class="book">
    <thead>
      <tr>
        <th>Field</th>
        <th>Kind</th>
        <th class="wide">Where</th>
        <th class="wide">Details</th>
        <th v-if="session.may('settings.fields')"><span class="visually-hidden">Change</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(field, index) in fields" :key="field.id">
        <td>
          <b>{{ field.label }}</b>
          <span v-if="marksOf(field, called)" class="soft marks">{{ marksOf(field, called) }}</span>
        </td>
        <td>{{ KIND_WORDS[field.kind] }}</td>
        <td class="wide">{{ placeOf(field) }}</td>
        <td class="soft wide">{{ detailsOf(field) }}</td>
        <td v-if="session.may('settings.fields')" class="acts">
          <v-btn class="word" :aria-label="`Change ${field.label}`" @click="form = { field }">Change</v-btn>
          <v-btn
            class="word"
            :disabled="index === 0"
            :aria-label="`Up: ${field.label}`"
            @click="move(field, index, -1)"
            >Up</v-btn
          >
          <v-btn
            class="word"
            :disabled="index === fields.length - 1"
            :aria-label="`Down: ${field.label}`"
            @click="move(field, index, 1)"
            >Down</v-btn
          >
          <v-btn
            class="word"
            @click="
              change(
                field,
                { active: !field.active },
                `${field.label} ${field.active ? 'retired' : 'in use again'}.`,
              )
            "
            >{{ field.active ? 'Retire' : 'Use again' }}</v-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
  <p v-else-if="data" class="empty">{{ RECORD_WORDS[record] }} have no fields of your own yet.</p>
  <FieldForm
    v-if="form"
    :key="form.field?.id ?? ''"
    :record="record"
    :field="form.field"
    :currency="session.me?.currency ?? 'EUR'"
    :what-for="whatFor"
    :tabs="used('tab')"
    :parts="used('part')"
    @close="form = null"
    @saved="saved"
  />
</template>

<style scoped>
.choose {
  display: flex;
  gap: 16px;
  align-items: end;
  max-width: 520px;
  padding-bottom: 12px;
}
.marks {
  display: block;
  font-size: 12px;
}
.acts {
  white-space: nowrap;
}
.acts .v-btn + .v-btn {
  margin-left: 14px;
}
@media (max-width: 700px) {
  .wide {
    display: none;
  }
  .acts {
    white-space: normal;
  }
}
</style>
