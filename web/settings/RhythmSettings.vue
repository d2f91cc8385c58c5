<script setup lang="ts">
import { STANDINGS } from '@emporikon/core/lifecycle/standing';
import { ref, watch } from 'vue';
import NumberField from '../kit/NumberField.vue';
import RemovableRows from '../kit/RemovableRows.vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { counted } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTerms } from '../terms/useTerms';
import { useTaskAction } from '../tasks/useTaskAction';

/** How often the team means to be in touch, by standing and tag. */
const session = useSession();
const run = useTaskAction();
const { data, error } = useFetched(() => api('GET /api/rhythms'), ['rhythms']);
const { nameOf } = useTerms();
const kind = ref<'standing' | 'tag'>('standing');
const value = ref<string>('customer');
const days = ref<number | null>(30);
watch(kind, (next) => (value.value = next === 'standing' ? 'customer' : ''));

async function put(): Promise<void> {
  const body = { kind: kind.value, value: value.value.trim(), days: days.value ?? 0 };
  await run(`Every ${counted(body.days, 'day')} with ${body.value}.`, () =>
    api('PUT /api/rhythms', { body }),
  );
}
const remove = (id: string, name: string): Promise<boolean> =>
  run(`No rhythm with ${name}.`, () => api('DELETE /api/rhythms/:id', { params: { id } }));
</script>

<template>
  <PageHead
    title="Rhythms"
    help="How often you mean to be in touch. Whoever has heard nothing for longer comes into the round as going quiet. A rhythm set on a person or company goes before these; of several tags the shortest holds."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <RemovableRows
    v-if="data"
    :heads="['With', 'How often']"
    :rows="
      data.items.map((rule) => ({
        id: rule.id,
        cells: [
          rule.kind === 'tag' ? `Tag: ${rule.value}` : `Standing: ${nameOf(rule.value)}`,
          `every ${counted(rule.days, 'day')}`,
        ],
      }))
    "
    :can-remove="session.may('settings.organisation')"
    empty="No rhythms yet."
    @remove="remove"
  />
  <form v-if="data && session.may('settings.organisation')" class="make" @submit.prevent="put">
    <v-select
      v-model="kind"
      label="By"
      :items="[
        { value: 'standing', title: 'Standing' },
        { value: 'tag', title: 'Tag' },
      ]"
    />
    <v-select
      v-if="kind === 'standing'"
      :model-value="value"
      label="Standing"
      :items="STANDINGS.map((key) => ({ value: key, title: nameOf(key) }))"
      @update:model-value="value = $event"
    />
    <v-text-field v-else v-model="value" label="Tag" required maxlength="60" />
    <NumberField v-model="days" label="Days" :min="1" :max="1000" />
    <v-btn class="fill" type="submit" :disabled="!value.trim() || !days">Set the rhythm</v-btn>
  </form>
</template>

<style scoped>
.make {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  max-width: 720px;
  padding-top: 14px;
}
</style>
