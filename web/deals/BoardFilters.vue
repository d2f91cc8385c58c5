<script setup lang="ts">
import FilterBar from '../kit/FilterBar.vue';
import type { Board } from '@emporikon/contract/deals';
import { PERIODS, type Period } from '@emporikon/core/lifecycle/periods';
import { computed } from 'vue';
import { useSession } from '../shell/session';
import { useTeam } from '../shell/useTeam';

export interface Chosen {
  q: string;
  owner: string;
  team: string;
  tag: string;
  period: Period;
}
const chosen = defineModel<Chosen>({ required: true });
defineProps<{ board: Board | null }>();
const session = useSession();
const team = useTeam();
const isFiltered = computed(
  () =>
    chosen.value.q ||
    chosen.value.owner ||
    chosen.value.team ||
    chosen.value.tag ||
    chosen.value.period !== 'any',
);
const owners = computed(() => [
  { value: '', title: 'Everybody’s' },
  ...(session.me ? [{ value: session.me.id, title: 'Mine' }] : []),
  ...team.value.filter(({ id }) => id !== session.me?.id).map(({ id, name }) => ({ value: id, title: name })),
]);
const set = (patch: Partial<Chosen>): void => void (chosen.value = { ...chosen.value, ...patch });
</script>

<template>
  <div class="filters" role="group" aria-label="Which deals">
    <v-text-field
      class="inline-edit"
      type="search"
      aria-label="Find a deal"
      placeholder="Deal or company"
      :model-value="chosen.q"
      @update:model-value="set({ q: $event })"
    />
    <FilterBar :set="[chosen.owner, chosen.team, chosen.tag, chosen.period !== 'any']">
      <v-select
        class="inline-edit"
        aria-label="Owner"
        :model-value="chosen.owner"
        :items="owners"
        @update:model-value="set({ owner: $event })"
      />
      <v-select
        class="inline-edit"
        aria-label="Team"
        :model-value="chosen.team"
        :items="[
          { value: '', title: 'Any team' },
          ...(board?.teams ?? []).map((one) => ({ value: one, title: one })),
        ]"
        @update:model-value="set({ team: $event })"
      />
      <v-select
        class="inline-edit"
        aria-label="When expected"
        :model-value="chosen.period"
        :items="Object.entries(PERIODS).map(([key, words]) => ({ value: key, title: words }))"
        @update:model-value="set({ period: $event as Period })"
      />
      <v-select
        class="inline-edit"
        aria-label="Tag"
        :model-value="chosen.tag"
        :items="[
          { value: '', title: 'Any tag' },
          ...(board?.tags ?? []).map((one) => ({ value: one, title: one })),
        ]"
        @update:model-value="set({ tag: $event })"
      />
    </FilterBar>
    <v-btn
      class="word"
      :disabled="!isFiltered"
      @click="set({ q: '', owner: '', team: '', tag: '', period: 'any' })"
    >
      Show all deals
    </v-btn>
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
  min-width: 120px;
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
  .filters > .word:disabled {
    display: none;
  }
}
</style>
