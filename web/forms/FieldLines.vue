<script setup lang="ts">
import type { FormField } from '@emporikon/contract/forms';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { ref } from 'vue';
import { api } from '../shell/api';
import { fieldName } from '../shell/format';
import { useFetched } from '../shell/live';

const fields = defineModel<FormField[]>({ required: true });
const { data: custom } = useFetched(() => api('GET /api/fields'), ['custom_fields']);
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
        <input v-model="field.label" class="inline-edit" :aria-label="`Question ${index + 1}`" />
        <select
          v-model="field.field"
          class="inline-edit"
          :aria-label="`What question ${index + 1} stands for`"
        >
          <option :value="null">words of their own</option>
          <option v-for="one in CLAIM_FIELDS" :key="one" :value="one">{{ fieldName(one) }}</option>
          <option v-for="one in custom?.items ?? []" :key="one.id" :value="`custom:${one.key}`">
            {{ one.label }}
          </option>
        </select>
        <label class="check"><input v-model="field.required" type="checkbox" /> needed</label>
        <span class="moves">
          <button
            type="button"
            class="word"
            :disabled="index === 0"
            :aria-label="`Move ${field.label} up`"
            @click="move(index, -1)"
          >
            up
          </button>
          <button
            type="button"
            class="word"
            :disabled="index === fields.length - 1"
            :aria-label="`Move ${field.label} down`"
            @click="move(index, 1)"
          >
            down
          </button>
          <button
            type="button"
            class="word"
            :aria-expanded="open === index"
            @click="open = open === index ? null : index"
          >
            more
          </button>
          <button
            type="button"
            class="word"
            :disabled="fields.length === 1"
            :aria-label="`Take ${field.label} out`"
            @click="fields.splice(index, 1)"
          >
            out
          </button>
        </span>
      </div>
      <div v-if="open === index" class="more">
        <label class="field"
          ><span class="cap">Kind</span>
          <select v-model="field.kind">
            <option v-for="one in KINDS" :key="one">{{ one }}</option>
          </select></label
        >
        <label class="field"
          ><span class="cap">Help below the question</span><input v-model="field.help"
        /></label>
        <label v-if="field.kind === 'choice'" class="field wide"
          ><span class="cap">To choose from, one a line</span
          ><textarea
            rows="3"
            :value="field.options.join('\n')"
            @change="
              field.options = ($event.target as HTMLTextAreaElement).value
                .split('\n')
                .map((one) => one.trim())
                .filter(Boolean)
            "
          ></textarea>
        </label>
      </div>
    </li>
  </ol>
  <button type="button" class="word" @click="add">Add a question</button>
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
