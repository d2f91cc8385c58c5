<script setup lang="ts">
import { NOT_READ } from '@emporikon/core/fields/own';
import type { FormField } from '@emporikon/contract/forms';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { ref } from 'vue';
import { api } from '../shell/api';
import { fieldName } from '../shell/format';
import { useFetched } from '../shell/live';

const fields = defineModel<FormField[]>({ required: true });
const { data: custom } = useFetched(
  () => api('GET /api/fields', { query: { record: 'person' } }),
  ['custom_fields'],
);
const open = ref<number | null>(null);
const KINDS = ['line', 'text', 'choice', 'yes or no', 'date', 'number'] as const;

function add(): void {
  let count = fields.value.length + 1;
  while (fields.value.some((one) => one.name === `field_${count}`)) count++;
  fields.value.push({
    name: `field_${count}`,
    label: 'New question',
    field: null,
    kind: 'line',
    required: false,
    help: '',
    options: [],
  });
  open.value = fields.value.length - 1;
}
function move(index: number, step: number): void {
  const to = index + step;
  const [one] = fields.value.splice(index, 1);
  if (one) fields.value.splice(to, 0, one);
  open.value = to;
}
</script>

<template>
  <ol>
    <li v-for="(field, index) in fields" :key="field.name">
      <div class="head">
        <v-text-field v-model="field.label" class="inline-edit" :aria-label="`Question ${index + 1}`" />
        <v-select
          v-model="field.field"
          class="inline-edit"
          :aria-label="`What question ${index + 1} stands for`"
          :items="[
            { value: null, title: 'Free text' },
            ...CLAIM_FIELDS.map((one) => ({ value: one, title: fieldName(one) })),
            ...(custom?.items ?? [])
              .filter(({ kind }) => !NOT_READ.has(kind))
              .map((one) => ({ value: `custom:${one.key}`, title: one.label })),
          ]"
        />
        <v-checkbox v-model="field.required" class="check" label="Required" />
        <span class="moves">
          <v-btn
            class="word"
            :disabled="index === 0"
            :aria-label="`Move ${field.label} up`"
            @click="move(index, -1)"
          >
            Up
          </v-btn>
          <v-btn
            class="word"
            :disabled="index === fields.length - 1"
            :aria-label="`Move ${field.label} down`"
            @click="move(index, 1)"
          >
            Down
          </v-btn>
          <v-btn class="word" :aria-expanded="open === index" @click="open = open === index ? null : index">
            More
          </v-btn>
          <v-btn
            class="word"
            :disabled="fields.length === 1"
            :aria-label="`Remove ${field.label}`"
            @click="fields.splice(index, 1)"
          >
            Remove
          </v-btn>
        </span>
      </div>
      <div v-if="open === index" class="more">
        <v-select v-model="field.kind" class="field" label="Kind" :items="KINDS" />
        <v-text-field v-model="field.help" class="field" label="Help below the question" />
        <v-textarea
          v-if="field.kind === 'choice'"
          class="field wide"
          label="Choices, one per line"
          rows="3"
          :model-value="field.options.join('\n')"
          @change="
            field.options = ($event.target as HTMLTextAreaElement).value
              .split('\n')
              .map((one) => one.trim())
              .filter(Boolean)
          "
        />
      </div>
    </li>
  </ol>
  <v-btn class="word" @click="add">Add a question</v-btn>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  border-top: 1px solid var(--rule2);
  padding: 5px 0;
}
.head {
  display: grid;
  grid-template-columns: 1.4fr 1fr auto auto;
  gap: 10px;
  align-items: center;
}
.check {
  display: flex;
  gap: 6px;
  white-space: nowrap;
}
.moves {
  display: flex;
  gap: 8px;
}
.more {
  display: grid;
  grid-template-columns: 1fr 2fr;
  gap: 8px;
  padding: 6px 0 6px 14px;
}
.wide {
  grid-column: 1 / 3;
}
@media (max-width: 700px) {
  .head {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
