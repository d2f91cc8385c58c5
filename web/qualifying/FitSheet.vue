<script setup lang="ts">
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import NumberField from '../kit/NumberField.vue';
import type { Reply } from '@emporikon/contract';
import type { FitRule } from '@emporikon/contract/qualifying';
import { conditionsOf, FIT_FIELDS, type FitField } from '@emporikon/core/qualifying/fit';
import { computed, ref, shallowRef, watch } from 'vue';
import { api, wordsOf } from '../shell/api';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

const session = useSession();
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

const isReady = computed(
  () => sheet.value !== null && (preview.value !== null || error.value !== '' || !isWhole.value),
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
    undo.tell({ text: 'Fit rules saved. Leads are being scored again.', eventId });
    await load();
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <PageHead
    title="Fit"
    help="How well a lead matches your kind of customer. Each rule that holds adds its points, up to 100."
  />
  <template v-if="!isReady"><span v-for="n in 10" :key="n" class="ghost"></span></template>
  <div v-show="isReady" class="halves">
    <section>
      <form @submit.prevent="save">
        <v-table v-if="sheet" class="book">
          <thead>
            <tr>
              <th>Field</th>
              <th>Condition</th>
              <th>Value</th>
              <th class="num">Points</th>
              <th class="last"><span class="visually-hidden">Remove</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(rule, at) in draft" :key="at">
              <td>
                <v-select
                  v-model="rule.field"
                  class="inline-edit"
                  :disabled="!session.may('settings.scoring')"
                  :aria-label="`Rule ${at + 1}: field`"
                  :items="fields.map(([name, { label }]) => ({ value: name, title: label }))"
                  @update:model-value="chooseField(rule)"
                />
              </td>
              <td>
                <v-select
                  v-model="rule.condition"
                  class="inline-edit"
                  :disabled="!session.may('settings.scoring')"
                  :aria-label="`Rule ${at + 1}: condition`"
                  :items="conditionsOf(rule.field)"
                  @update:model-value="isTouched = true"
                />
              </td>
              <td>
                <v-text-field
                  v-if="rule.condition !== 'is known'"
                  v-model="rule.value"
                  class="inline-edit"
                  :disabled="!session.may('settings.scoring')"
                  :inputmode="FIT_FIELDS[rule.field].kind === 'number' ? 'decimal' : undefined"
                  :placeholder="
                    FIT_FIELDS[rule.field].kind === 'number' ? 'A number' : 'Values, separated by commas'
                  "
                  :aria-label="`Rule ${at + 1}: value`"
                  maxlength="300"
                  required
                  @update:model-value="isTouched = true"
                />
              </td>
              <td class="num">
                <NumberField
                  v-model="rule.points"
                  class="inline-edit"
                  :min="-100"
                  :max="100"
                  :disabled="!session.may('settings.scoring')"
                  :aria-label="`Rule ${at + 1}: points`"
                  required
                  @update:model-value="isTouched = true"
                />
              </td>
              <td>
                <v-btn
                  v-if="session.may('settings.scoring')"
                  class="word"
                  :aria-label="`Remove rule ${at + 1}`"
                  @click="remove(at)"
                >
                  Remove
                </v-btn>
              </td>
            </tr>
          </tbody>
        </v-table>
        <template v-else><span v-for="n in 5" :key="n" class="ghost"></span></template>
        <p v-if="sheet && !draft.length" class="empty">No rules yet. Every lead has a fit of 0.</p>
        <p v-if="error" class="wrong" role="alert">{{ error }}</p>
        <div v-if="session.may('settings.scoring')" class="foot">
          <v-btn class="word" @click="add">Add a rule</v-btn>
          <v-btn v-if="isTouched" class="fill" type="submit">Save</v-btn>
          <v-btn v-if="isTouched" class="word" @click="reset">Cancel</v-btn>
        </div>
      </form>
    </section>
    <section>
      <h2>{{ isTouched ? 'How today’s leads would rank' : 'How today’s leads rank' }}</h2>
      <v-table v-if="preview?.items.length" class="book">
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
            <td v-if="isTouched" class="num soft">{{ one.before }}, rank {{ one.rankBefore }}</td>
          </tr>
        </tbody>
      </v-table>
      <p v-else-if="preview" class="empty">No open leads.</p>
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
  grid-template-columns: minmax(0, 1.75fr) minmax(0, 1fr);
  gap: 20px 40px;
}
form :deep(table) {
  table-layout: fixed;
  min-width: 520px;
}
form th:nth-child(1) {
  width: 26%;
}
form th:nth-child(2) {
  width: 19%;
}
form th.num {
  width: 84px;
}
form th.last {
  width: 72px;
}
section:last-child th.num {
  width: 60px;
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
}
/* On a phone a rule takes two lines: what is looked at, and what it has to be. */
@media (max-width: 700px) {
  form :deep(:is(table, tbody)) {
    display: block;
    min-width: 0;
  }
  form thead {
    display: none;
  }
  form tr {
    display: grid;
    grid-template-columns: 1fr 84px 72px;
    align-items: center;
    gap: 0 8px;
    padding: 4px 0;
    border-bottom: 1px solid var(--rule2);
  }
  form td:nth-child(2) {
    grid-column: 2 / -1;
  }
  form :deep(:is(td, td > .v-input)) {
    min-width: 0 !important;
    height: auto !important;
    padding: 2px 0 !important;
    border: 0 !important;
  }
}
</style>
