<script setup lang="ts">
import { conditionsOf, FIT_FIELDS, type FitCondition, type FitField } from '@emporikon/core/qualifying/fit';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { percent } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';

/** Who is given new leads, and how evenly they went. */
defineProps<{ mayEdit: boolean }>();
const undo = useUndo();
interface Draft {
  field: FitField | '';
  condition: FitCondition;
  value: string;
  owners: string[];
}
const { data: sheet, load } = useFetched(() => api('GET /api/owner-rules'), ['owner_rules']);
const { data: team } = useFetched(() => api('GET /api/users'), []);
const { data: figures } = useFetched(() => api('GET /api/figures/owners'), ['leads']);
const draft = ref<Draft[]>([]);
const isTouched = ref(false);
watch(sheet, (now) => {
  if (now && !isTouched.value)
    draft.value = now.items.map((item) => ({
      field: item.field ?? '',
      condition: item.condition ?? 'is',
      value: item.value,
      owners: item.owners.map((owner) => owner.id),
    }));
});
const isWhole = computed(() => draft.value.every((one) => one.owners.length > 0));
const fields = Object.entries(FIT_FIELDS).filter(([name]) => name !== 'quantity' && name !== 'amount');

function add(): void {
  isTouched.value = true;
  draft.value.push({ field: 'country', condition: 'is', value: '', owners: [] });
}
function chooseField(rule: Draft): void {
  isTouched.value = true;
  if (rule.field && !conditionsOf(rule.field).includes(rule.condition))
    rule.condition = conditionsOf(rule.field)[0] ?? 'is known';
}
function reset(): void {
  isTouched.value = false;
  void load();
}

async function save(): Promise<void> {
  try {
    const { eventId } = await api('PUT /api/owner-rules', {
      body: {
        rules: draft.value.map(({ field, condition, value, owners }) => ({
          when: field ? { field, condition, value } : null,
          owners,
        })),
        seen: (sheet.value?.items ?? []).map(({ id, version }) => ({ id, version })),
      },
    });
    isTouched.value = false;
    undo.tell({ text: 'New leads go by these rules.', eventId });
    await load();
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <section>
    <h2>Who gets new leads</h2>
    <p class="soft">
      The first rule that holds says who; among several it goes in turn.
      {{ draft.length ? '' : 'There is none: a lead is whose files it.' }}
    </p>
    <form v-if="sheet && team" @submit.prevent="save">
      <div v-for="(rule, at) in draft" :key="at" class="rule">
        <select
          v-model="rule.field"
          class="inline-edit"
          :disabled="!mayEdit"
          :aria-label="`Owner rule ${at + 1}: what`"
          @change="chooseField(rule)"
        >
          <option value="">all the rest</option>
          <option v-for="[name, { label }] in fields" :key="name" :value="name">{{ label }}</option>
        </select>
        <template v-if="rule.field">
          <select
            v-model="rule.condition"
            class="inline-edit"
            :disabled="!mayEdit"
            :aria-label="`Owner rule ${at + 1}: condition`"
            @change="isTouched = true"
          >
            <option v-for="one in conditionsOf(rule.field)" :key="one">{{ one }}</option>
          </select>
          <input
            v-if="rule.condition !== 'is known'"
            v-model="rule.value"
            class="inline-edit"
            :disabled="!mayEdit"
            :aria-label="`Owner rule ${at + 1}: held against`"
            maxlength="300"
            required
            @input="isTouched = true"
          />
        </template>
        <span class="owners">
          <label v-for="one in team.items" :key="one.id"
            ><input
              v-model="rule.owners"
              type="checkbox"
              :value="one.id"
              :disabled="!mayEdit"
              @change="isTouched = true"
            />
            {{ one.name }}</label
          >
        </span>
        <button
          v-if="mayEdit"
          type="button"
          class="word"
          :aria-label="`Remove owner rule ${at + 1}`"
          @click="
            draft.splice(at, 1);
            isTouched = true;
          "
        >
          remove
        </button>
      </div>
      <div v-if="mayEdit" class="foot">
        <button type="button" class="word" @click="add">Add an owner rule</button>
        <v-btn v-if="isTouched" class="quiet" type="submit" :disabled="!isWhole">Set the rules</v-btn>
        <button v-if="isTouched" type="button" class="word" @click="reset">Leave them as they were</button>
      </div>
    </form>
    <template v-else><span v-for="n in 3" :key="n" class="ghost"></span></template>
    <p v-if="figures" class="soft">
      In 30 days:
      <template v-for="(one, index) in figures.owners" :key="one.id"
        >{{ index ? ', ' : '' }}{{ one.name }} {{ one.leads }}</template
      >; spread {{ percent(figures.fairness) }} even.
    </p>
  </section>
</template>

<style scoped>
.rule {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--rule2);
}
.rule > .inline-edit {
  width: auto;
  flex: 1 1 110px;
}
.owners {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  flex-basis: 100%;
}
.owners label {
  display: inline-flex;
  gap: 5px;
  align-items: center;
  min-height: 24px;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  padding-top: 6px;
}
p {
  margin: 4px 0 8px;
}
</style>
