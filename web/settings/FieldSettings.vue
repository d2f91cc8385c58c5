<script setup lang="ts">
import type { CustomField } from '@emporikon/contract/fields';
import { ref } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Fields that people have beside those every person has. */
const undo = useUndo();
const session = useSession();
const { data: fields, load } = useFetched(() => api('GET /api/fields'), ['custom_fields']);
const label = ref('');
const kind = ref<'text' | 'number' | 'date' | 'choice' | 'yes or no'>('text');
const options = ref('');
const isPersonal = ref(false);
const KINDS = [
  { value: 'text', title: 'Text' },
  { value: 'number', title: 'Number' },
  { value: 'date', title: 'Date' },
  { value: 'choice', title: 'Choice' },
  { value: 'yes or no', title: 'Yes or no' },
] as const;

const placeOf = ({ active, isPersonal }: CustomField): string =>
  active ? (isPersonal ? 'Under Personal' : 'On the card') : 'Retired';

async function change(field: CustomField, patch: { isPersonal?: boolean; active?: boolean }): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/fields/:id', {
      params: { id: field.id },
      body: { version: field.version, ...patch },
    });
    undo.tell({ text: `${field.label}: ${placeOf({ ...field, ...patch }).toLowerCase()}.`, eventId });
    await load();
  } catch (error) {
    undo.fail(error);
  }
}

async function add(): Promise<void> {
  try {
    const { eventId } = await api('POST /api/fields', {
      body: {
        label: label.value,
        kind: kind.value,
        isPersonal: isPersonal.value,
        options: options.value
          .split(',')
          .map((option) => option.trim())
          .filter(Boolean),
      },
    });
    undo.tell({ text: `Added the field ${label.value}.`, eventId });
    label.value = '';
    options.value = '';
    await load();
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <PageHead title="Fields" help="Fields of your own on every person, beside the usual ones." />
  <v-table v-if="fields?.items.length" class="book">
    <thead>
      <tr>
        <th>Field</th>
        <th>Kind</th>
        <th>Choices</th>
        <th>Shown</th>
        <th v-if="session.mayManage"><span class="visually-hidden">Change</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="field in fields.items" :key="field.id">
        <td>
          <b>{{ field.label }}</b>
        </td>
        <td>{{ KINDS.find(({ value }) => value === field.kind)?.title }}</td>
        <td class="soft">{{ field.options.join(', ') }}</td>
        <td>{{ placeOf(field) }}</td>
        <td v-if="session.mayManage" class="acts">
          <v-btn v-if="field.active" class="word" @click="change(field, { isPersonal: !field.isPersonal })">{{
            field.isPersonal ? 'Show on the card' : 'Show under Personal'
          }}</v-btn>
          <v-btn class="word" @click="change(field, { active: !field.active })">{{
            field.active ? 'Retire' : 'Use again'
          }}</v-btn>
        </td>
      </tr>
    </tbody>
  </v-table>
  <p v-else-if="fields" class="empty">No fields of your own yet.</p>
  <form v-if="fields && session.mayManage" class="make" @submit.prevent="add">
    <v-text-field v-model="label" label="Name" required maxlength="80" placeholder="Fleet size" />
    <v-select v-model="kind" label="Kind" :items="KINDS" />
    <v-text-field
      v-if="kind === 'choice'"
      v-model="options"
      label="Choices"
      placeholder="Values, separated by commas"
    />
    <v-checkbox v-model="isPersonal" label="Show under Personal" />
    <v-btn class="fill" type="submit">Add a field</v-btn>
  </form>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 820px;
  padding-top: 14px;
}
.make > .v-input {
  flex: 1 1 180px;
}
.acts .v-btn + .v-btn {
  margin-left: 16px;
}
</style>
