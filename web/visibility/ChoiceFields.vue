<script setup lang="ts">
import type { SightChoice, Team } from '@emporikon/contract/visibility';
import { computed } from 'vue';
import { useTeam } from '../shell/useTeam';
import { CHOICES } from './words';

/** Who may see something: everybody, whose it is, a team, or people by name. */
const choice = defineModel<SightChoice>({ required: true });
const props = defineProps<{ teams: readonly Team[]; label: string; isOff?: boolean }>();
const people = useTeam();
const choices = computed(() =>
  props.teams.length ? CHOICES : CHOICES.filter(({ value }) => value !== 'team'),
);
const set = (patch: Partial<SightChoice>): void => void (choice.value = { ...choice.value, ...patch });
</script>

<template>
  <div class="choice">
    <v-select
      :model-value="choice.visibility"
      :items="choices"
      :label="label"
      :disabled="isOff"
      @update:model-value="set({ visibility: $event })"
    />
    <v-select
      v-if="choice.visibility === 'team'"
      :model-value="choice.teamId ?? null"
      :items="teams"
      item-title="name"
      item-value="id"
      label="Team"
      :disabled="isOff"
      @update:model-value="set({ teamId: $event ?? undefined })"
    />
    <v-autocomplete
      v-if="choice.visibility === 'named'"
      :model-value="choice.peopleIds ?? []"
      :items="people"
      item-title="name"
      item-value="id"
      label="People"
      multiple
      chips
      closable-chips
      :disabled="isOff"
      @update:model-value="set({ peopleIds: $event })"
    />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  gap: 10px;
}
</style>
