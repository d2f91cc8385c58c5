<script setup lang="ts">
import type { Reply } from '@emporikon/contract';
import type { FitRule } from '@emporikon/contract/qualifying';
import { conditionsOf, FIT_FIELDS, type FitField } from '@emporikon/core/qualifying/fit';
import { computed, ref, shallowRef, watch } from 'vue';
import { api, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

defineProps<{ mayEdit: boolean }>();
const undo = useUndo();
type Draft = Pick<FitRule, 'field' | 'condition' | 'value' | 'points'>;
const { data: sheet, load } = useFetched(() => api('GET /api/fit-rules'), ['fit_rules']);
const draft = ref<Draft[]>([]);
const isTouched = ref(false);
const error = ref('');
const preview = shallowRef<Reply<'POST /api/fit-rules/preview'> | null>(null);
const fields = Object.entries(FIT_FIELDS) as [FitField, { label: string; kind: string }][];

watch(sheet, (now) => {
  if (now && !isTouched.value)
    draft.value = now.items.map(({ field, condition, value, points }) => ({
      field,
      condition,
      value,
      points,
    }));
});
const isWhole = computed(() =>
  draft.value.every((one) => one.condition === 'is known' || one.value.trim() !== ''),
);

let timer: ReturnType<typeof setTimeout> | undefined;
async function look(): Promise<void> {
  if (!isWhole.value) return;
  try {
    preview.value = await api('POST /api/fit-rules/preview', { body: { rules: draft.value } });
    error.value = '';
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
watch(
  draft,
  () => {
    clearTimeout(timer);
    timer = setTimeout(() => void look(), 250);
  },
  { deep: true },
);

function chooseField(rule: Draft): void {
  isTouched.value = true;
  if (!conditionsOf(rule.field).includes(rule.condition))
    rule.condition = conditionsOf(rule.field)[0] ?? 'is known';
}
function add(): void {
  isTouched.value = true;
  draft.value.push({ field: 'industry', condition: 'is', value: '', points: 10 });
}
function remove(at: number): void {
  isTouched.value = true;
  draft.value.splice(at, 1);
}
function reset(): void {
  isTouched.value = false;
  void load();
}

async function save(): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/fit-rules', {
      body: {
        rules: draft.value,
        seen: (sheet.value?.items ?? []).map(({ id, version }) => ({ id, version })),
      },
    });
    isTouched.value = false;
    undo.tell({ text: 'The rule sheet is set; leads are scored by it.', eventId });
    await load();
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <div class="halves">
    <section>
      <h2>Fit</h2>
      <form @submit.prevent="save">
        <table v-if="sheet" class="book">
          <thead>
            <tr>
              <th>What</th>
              <th>Condition</th>
              <th>Held against</th>
              <th class="num">Points</th>
              <th><span class="d-sr-only">Remove</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(rule, at) in draft" :key="at">
              <td>
                <select
                  v-model="rule.field"
                  class="inline-edit"
                  :disabled="!mayEdit"
                  :aria-label="`Rule ${at + 1}: what`"
                  @change="chooseField(rule)"
                >
                  <option v-for="[name, { label }] in fields" :key="name" :value="name">{{ label }}</option>
                </select>
              </td>
              <td>
                <select
                  v-model="rule.condition"
                  class="inline-edit"
                  :disabled="!mayEdit"
                  :aria-label="`Rule ${at + 1}: condition`"
                  @change="isTouched = true"
                >
                  <option v-for="one in conditionsOf(rule.field)" :key="one">{{ one }}</option>
                </select>
              </td>
              <td>
                <input
                  v-if="rule.condition !== 'is known'"
                  v-model="rule.value"
                  class="inline-edit"
                  :disabled="!mayEdit"
                  :inputmode="FIT_FIELDS[rule.field].kind === 'number' ? 'decimal' : undefined"
                  :placeholder="FIT_FIELDS[rule.field].kind === 'number' ? 'a number' : 'any of, by commas'"
                  :aria-label="`Rule ${at + 1}: held against`"
                  maxlength="300"
                  required
                  @input="isTouched = true"
                />
              </td>
              <td class="num">
                <input
                  v-model.number="rule.points"
                  class="inline-edit points"
                  type="number"
                  min="-100"
                  max="100"
                  :disabled="!mayEdit"
                  :aria-label="`Rule ${at + 1}: points`"
                  required
                  @input="isTouched = true"
                />
              </td>
              <td>
                <button
                  v-if="mayEdit"
                  type="button"
                  class="word"
                  :aria-label="`Remove rule ${at + 1}`"
                  @click="remove(at)"
                >
                  remove
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <template v-else><span v-for="n in 5" :key="n" class="ghost"></span></template>
        <p v-if="sheet && !draft.length" class="empty">No rule yet: every lead has a fit of 0.</p>
        <p v-if="error" class="wrong" role="alert">{{ error }}</p>
        <div v-if="mayEdit" class="foot">
          <button type="button" class="word" @click="add">Add a rule</button>
          <v-btn v-if="isTouched" class="fill" type="submit">Set the sheet</v-btn>
          <button v-if="isTouched" type="button" class="word" @click="reset">Leave it as it was</button>
        </div>
      </form>
    </section>
    <section>
      <h2>{{ isTouched ? 'As today’s leads would be ranked' : 'As today’s leads are ranked' }}</h2>
      <table v-if="preview?.items.length" class="book">
        <thead>
          <tr>
            <th class="num">Rank</th>
            <th>Lead</th>
            <th class="num">Fit</th>
            <th v-if="isTouched" class="num">Was</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in preview.items.slice(0, 10)" :key="one.lead.id">
            <td class="num">{{ one.rankAfter }}</td>
            <td>
              <RouterLink :to="`/leads/${one.lead.id}`">{{ one.lead.name }}</RouterLink>
              <span class="soft"> {{ one.person }}</span>
            </td>
            <td class="num">
              <b>{{ one.after }}</b>
            </td>
            <td v-if="isTouched" class="num soft">{{ one.before }}, {{ one.rankBefore }}.</td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="preview" class="empty">No open lead.</p>
      <template v-else><span v-for="n in 5" :key="n" class="ghost"></span></template>
    </section>
  </div>
</template>

<style scoped>
/* As high as what will stand there, so that nothing moves when it comes. */
.halves > section {
  min-height: 440px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
  gap: 20px 40px;
}
.points {
  width: 76px;
}
.foot {
  display: flex;
  gap: 16px;
  align-items: center;
  padding-top: 8px;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
  form {
    overflow-x: auto;
  }
}
</style>
