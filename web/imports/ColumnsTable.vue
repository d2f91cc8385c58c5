<script setup lang="ts">
import { NOT_READ } from '@emporikon/core/fields/own';
import type { ImportReading, Mapping } from '@emporikon/contract/imports';
import { RECORD_FIELDS } from '@emporikon/core/reading/table/records';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { computed } from 'vue';
import { api } from '../shell/api';
import { fieldName, percent } from '../shell/format';
import { useFetched } from '../shell/live';

defineProps<{ reading: ImportReading }>();
const mapping = defineModel<Mapping>({ required: true });
const { data: fields } = useFetched(
  () => api('GET /api/fields', { query: { record: 'person' } }),
  ['custom_fields'],
);
const TYPES = ['mobile', 'work', 'home', 'fax'] as const;
const columnOf = (index: number): Mapping['columns'][number] => {
  let found = mapping.value.columns.find((column) => column.index === index);
  if (!found) mapping.value.columns.push((found = { index, field: 'none', type: null }));
  return found;
};
/** What a column can hold, by what the rows are. */
const choices = computed((): { value: string; name: string }[] => {
  const { target = 'people' } = mapping.value;
  if (target !== 'people')
    return Object.entries(RECORD_FIELDS[target]).map(([value, name]) => ({ value, name }));
  return [
    ...CLAIM_FIELDS.map((value) => ({ value, name: fieldName(value) })),
    { value: 'tags', name: 'Tags' },
    ...(fields.value?.items ?? [])
      .filter(({ kind }) => !NOT_READ.has(kind))
      .map((item) => ({ value: `custom:${item.key}`, name: item.label })),
  ];
});
const BY = {
  heading: 'by its heading',
  content: 'by what is in it',
  nothing: '',
  hand: 'as before',
} as const;
</script>

<template>
  <v-table class="book">
    <thead>
      <tr>
        <th>Column</th>
        <th>Field</th>
        <th class="wide">Chosen</th>
        <th>Samples</th>
        <th class="num wide">Filled</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="column in reading.columns" :key="column.index">
        <td>
          <b>{{ column.heading }}</b>
        </td>
        <td>
          <v-select
            v-model="columnOf(column.index).field"
            class="inline-edit"
            :aria-label="`What ${column.heading} holds`"
            :items="[
              { value: 'none', title: 'leave out' },
              ...choices.map((one) => ({ value: one.value, title: one.name })),
            ]"
          />
          <v-select
            v-if="columnOf(column.index).field === 'phone' && (mapping.target ?? 'people') === 'people'"
            v-model="columnOf(column.index).type"
            class="inline-edit"
            aria-label="Kind of number"
            :items="[
              { value: null, title: 'by its digits' },
              ...TYPES.map((one) => ({ value: one, title: one })),
            ]"
          />
        </td>
        <td class="wide soft">{{ BY[column.by] }}</td>
        <td class="soft samples">{{ column.samples.join(' · ') }}</td>
        <td class="num wide">{{ percent(column.filled) }}</td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
td select {
  width: auto;
  min-width: 130px;
  margin-right: 6px;
}
.samples {
  max-width: 420px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
