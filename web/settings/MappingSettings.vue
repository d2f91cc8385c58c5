<script setup lang="ts">
import { NOT_READ } from '@emporikon/core/fields/own';
import type { FieldMapping } from '@emporikon/contract/fields';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { fieldName } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Which field of a record a fact goes to when something is filed. */
const undo = useUndo();
const session = useSession();
const { data: fields } = useFetched(
  () => api('GET /api/fields', { query: { record: 'person' } }),
  ['custom_fields'],
);
const { data: mappings, load } = useFetched(() => api('GET /api/field-mappings'), ['field_mappings']);

async function map(field: FieldMapping['field'], target: string): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/field-mappings', {
      body: { field, target: target as FieldMapping['target'] },
    });
    undo.tell({ text: `Changed where ${fieldName(field).toLowerCase()} goes.`, eventId });
  } catch (error) {
    undo.fail(error);
  } finally {
    await load();
  }
}
</script>

<template>
  <PageHead
    title="Where facts go"
    help="What happens to each kind of fact that is read from a message, a page or a form when it is filed."
  />
  <v-table class="book narrow">
    <thead>
      <tr>
        <th>Fact</th>
        <th>Goes to</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="one in mappings?.items ?? []" :key="one.field">
        <td>{{ fieldName(one.field) }}</td>
        <td>
          <v-select
            :model-value="one.target"
            :disabled="!session.may('settings.channels')"
            :aria-label="`Where ${fieldName(one.field)} goes`"
            :items="[
              { value: 'own', title: 'Its own field' },
              { value: 'background', title: 'The background' },
              { value: 'nowhere', title: 'Nowhere' },
              ...(fields?.items ?? [])
                .filter(({ kind }) => !NOT_READ.has(kind))
                .map((field) => ({ value: `custom:${field.key}`, title: field.label })),
            ]"
            @update:model-value="map(one.field, $event)"
          />
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.narrow {
  max-width: 560px;
}
</style>
