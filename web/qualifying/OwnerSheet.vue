<script setup lang="ts">
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import { conditionsOf, FIT_FIELDS, type FitCondition, type FitField } from '@emporikon/core/qualifying/fit';
import { computed, ref, watch } from 'vue';
import { api } from '../shell/api';
import { percent, plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';

/** Who is given new leads, and how evenly they went. */

const session = useSession();
const undo = useUndo();
interface Draft {
  field: FitField | '';
  condition: FitCondition;
  value: string;
  owners: string[];
}
const { data: sheet, load } = useFetched(() => api('GET /api/owner-rules'), ['owner_rules']);
const team = useTeam();
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
    undo.tell({ text: 'Owner rules saved.', eventId });
    await load();
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <PageHead
    title="Lead owners"
    help="Who gets a new lead. The first rule that holds decides; with several owners they take turns. Without a rule, a lead belongs to whoever files it."
  />
  <div v-if="sheet && team.length && figures" class="halves">
    <form @submit.prevent="save">
      <h2>Rules</h2>
      <p v-if="!draft.length" class="empty">No rules yet. A lead belongs to whoever files it.</p>
      <div v-for="(rule, at) in draft" :key="at" class="rule">
        <v-select
          v-model="rule.field"
          class="inline-edit"
          :disabled="!session.may('settings.scoring')"
          :aria-label="`Owner rule ${at + 1}: field`"
          :items="[
            { value: '', title: 'All other leads' },
            ...fields.map(([name, { label }]) => ({ value: name, title: label })),
          ]"
          @update:model-value="chooseField(rule)"
        />
        <template v-if="rule.field">
          <v-select
            v-model="rule.condition"
            class="inline-edit"
            :disabled="!session.may('settings.scoring')"
            :aria-label="`Owner rule ${at + 1}: condition`"
            :items="conditionsOf(rule.field)"
            @update:model-value="isTouched = true"
          />
          <v-text-field
            v-if="rule.condition !== 'is known'"
            v-model="rule.value"
            class="inline-edit"
            :disabled="!session.may('settings.scoring')"
            :aria-label="`Owner rule ${at + 1}: value`"
            maxlength="300"
            required
            @update:model-value="isTouched = true"
          />
        </template>
        <span class="owners">
          <v-checkbox
            v-for="one in team"
            :key="one.id"
            v-model="rule.owners"
            :label="one.name"
            :value="one.id"
            :disabled="!session.may('settings.scoring')"
            @update:model-value="isTouched = true"
          />
        </span>
        <v-btn
          v-if="session.may('settings.scoring')"
          class="word"
          :aria-label="`Remove owner rule ${at + 1}`"
          @click="
            draft.splice(at, 1);
            isTouched = true;
          "
        >
          Remove
        </v-btn>
      </div>
      <div v-if="session.may('settings.scoring')" class="foot">
        <v-btn v-if="isTouched" class="fill" type="submit" :disabled="!isWhole">Save</v-btn>
        <v-btn :class="isTouched ? 'word' : 'quiet'" @click="add">Add an owner rule</v-btn>
        <v-btn v-if="isTouched" class="word" @click="reset">Cancel</v-btn>
      </div>
    </form>
    <section>
      <h2>New leads in the last 30 days</h2>
      <v-table v-if="figures.owners.length" class="book">
        <thead>
          <tr>
            <th>Owner</th>
            <th class="num">Leads</th>
            <th class="num">By a rule</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="owner in figures.owners" :key="owner.id">
            <td>{{ owner.name }}</td>
            <td class="num">{{ plainNumber(owner.leads) }}</td>
            <td class="num soft">{{ plainNumber(owner.byRule) }}</td>
          </tr>
        </tbody>
      </v-table>
      <p class="soft">
        {{ figures.owners.length ? `Spread ${percent(figures.fairness)} evenly.` : 'No new leads.' }}
      </p>
    </section>
  </div>
  <template v-else><span v-for="n in 6" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.75fr) minmax(0, 1fr);
  gap: 20px 40px;
  align-items: start;
}
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
.empty {
  padding: 10px 0;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
