<script setup lang="ts">
import type { FieldMapping } from '@emporikon/contract/fields';
import { ref } from 'vue';
import { api } from '../shell/api';
import { fieldName } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

defineProps<{ mayEdit: boolean }>();
const undo = useUndo();
const { data: fields, load } = useFetched(() => api('GET /api/fields'), ['custom_fields']);
const { data: mappings, load: loadMappings } = useFetched(
  () => api('GET /api/field-mappings'),
  ['field_mappings'],
);
const label = ref('');
const kind = ref<'text' | 'number' | 'date' | 'choice' | 'yes or no'>('text');
const options = ref('');

async function add(): Promise<void> {
  try {
    const { eventId } = await api('POST /api/fields', {
      body: {
        label: label.value,
        kind: kind.value,
        options: options.value
          .split(',')
          .map((one) => one.trim())
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

async function map(field: FieldMapping['field'], target: string): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/field-mappings', {
      body: { field, target: target as FieldMapping['target'] },
    });
    undo.tell({ text: `${fieldName(field)} goes there from now on.`, eventId });
  } catch (error) {
    undo.fail(error);
  } finally {
    await loadMappings();
  }
}
</script>

<template>
  <section>
    <h2>Fields of your own</h2>
    <ul>
      <li v-for="one in fields?.items ?? []" :key="one.id">
        <span
          ><b>{{ one.label }}</b> <span class="soft">{{ one.kind }}</span></span
        >
      </li>
    </ul>
    <form v-if="mayEdit" class="make" @submit.prevent="add">
      <label class="field"
        ><span class="cap">Name of the field</span
        ><input v-model="label" required maxlength="80" placeholder="Fleet size"
      /></label>
      <label class="field"
        ><span class="cap">Kind</span>
        <select v-model="kind">
          <option>text</option>
          <option>number</option>
          <option>date</option>
          <option>choice</option>
          <option>yes or no</option>
        </select></label
      >
      <label v-if="kind === 'choice'" class="field"
        ><span class="cap">Choices, separated by commas</span><input v-model="options"
      /></label>
      <v-btn class="quiet" type="submit">Add a field</v-btn>
    </form>
    <h2 class="next">Which claim goes where</h2>
    <div v-for="one in mappings?.items ?? []" :key="one.field" class="map">
      <span>{{ fieldName(one.field) }}</span>
      <select
        class="inline-edit"
        :value="one.target"
        :disabled="!mayEdit"
        :aria-label="`Where ${fieldName(one.field)} goes`"
        @change="map(one.field, ($event.target as HTMLSelectElement).value)"
      >
        <option value="own">its own field</option>
        <option value="background">the background</option>
        <option value="nowhere">nowhere</option>
        <option v-for="field in fields?.items ?? []" :key="field.id" :value="`custom:${field.key}`">
          {{ field.label }}
        </option>
      </select>
    </div>
  </section>
</template>

<style scoped>
.next {
  margin-top: 20px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--rule2);
}
.make {
  display: grid;
  gap: 8px;
  padding-top: 8px;
}
.map {
  display: grid;
  grid-template-columns: 1fr 170px;
  align-items: center;
  gap: 8px;
  padding: 1px 0;
}
</style>
