<script setup lang="ts">
import type { OwnRecord } from '@emporikon/core/fields/own';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import OwnFields from './OwnFields.vue';

/** The organisation's own fields of any record but a person, whose fields come with the person. */
const props = defineProps<{ record: Exclude<OwnRecord, 'person'>; id: string }>();
const TABLES = {
  company: 'companies',
  lead: 'leads',
  deal: 'deals',
  task: 'tasks',
  project: 'projects',
  case: 'cases',
} as const;
const undo = useUndo();
const params = { record: props.record, id: props.id };
const { data, load } = useFetched(
  () => api('GET /api/records/:record/:id/fields', { params }),
  [TABLES[props.record], 'custom_fields'],
  () => [props.id],
);

const save =
  (key: string) =>
  async (value: string, version: number): Promise<void> => {
    const { eventId } = await api('PATCH /api/records/:record/:id/fields', {
      params,
      body: { version, values: { [key]: value } },
    });
    undo.tell({ text: 'Field changed.', eventId });
    await load();
  };
</script>

<template>
  <OwnFields
    v-if="data?.items.length"
    :id="id"
    :record="record"
    :items="data.items"
    :save="save"
    :version="data.version"
  />
</template>
