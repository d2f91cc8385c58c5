<script setup lang="ts">
import type { Board } from '@emporikon/contract/deals';
import { PERIODS, type Period } from '@emporikon/core/lifecycle/periods';
import { computed } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';

export interface Chosen {
  owner: string;
  team: string;
  tag: string;
  period: Period;
}
const chosen = defineModel<Chosen>({ required: true });
defineProps<{ board: Board | null }>();
const session = useSession();
const { data: team } = useFetched(() => api('GET /api/users'), ['users']);
const isFiltered = computed(
  () => chosen.value.owner || chosen.value.team || chosen.value.tag || chosen.value.period !== 'any',
);
const set = (patch: Partial<Chosen>): void => void (chosen.value = { ...chosen.value, ...patch });
const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
</script>

<template>
  <div class="filters" role="group" aria-label="Which deals">
    <select
      class="inline-edit"
      aria-label="Owner"
      :value="chosen.owner"
      @change="set({ owner: valueOf($event) })"
    >
      <option value="">of everybody</option>
      <option v-if="session.me" :value="session.me.id">mine</option>
      <option
        v-for="one in (team?.items ?? []).filter((each) => each.id !== session.me?.id)"
        :key="one.id"
        :value="one.id"
      >
        of {{ one.name }}
      </option>
    </select>
    <select
      class="inline-edit"
      aria-label="Team"
      :value="chosen.team"
      @change="set({ team: valueOf($event) })"
    >
      <option value="">any team</option>
      <option v-for="one in board?.teams ?? []" :key="one" :value="one">team {{ one }}</option>
    </select>
    <select
      class="inline-edit"
      aria-label="When expected"
      :value="chosen.period"
      @change="set({ period: valueOf($event) as Period })"
    >
      <option v-for="(words, key) in PERIODS" :key="key" :value="key">{{ words }}</option>
    </select>
    <select class="inline-edit" aria-label="Tag" :value="chosen.tag" @change="set({ tag: valueOf($event) })">
      <option value="">any tag</option>
      <option v-for="one in board?.tags ?? []" :key="one" :value="one">tag {{ one }}</option>
    </select>
    <button
      class="word"
      :disabled="!isFiltered"
      @click="set({ owner: '', team: '', tag: '', period: 'any' })"
    >
      all deals
    </button>
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  align-items: center;
  padding: 0 24px 4px;
  min-height: 34px;
}
.inline-edit {
  width: auto;
  max-width: 170px;
}
.word:disabled {
  visibility: hidden;
}
@media (max-width: 700px) {
  .filters {
    padding: 0 14px 4px;
  }
  .inline-edit {
    flex: 1 1 40%;
  }
}
</style>
