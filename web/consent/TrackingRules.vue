<script setup lang="ts">
import type { TrackingRules as Rules } from '@emporikon/contract/consent';
import { countryCodes } from '@emporikon/core/places/countries';
import { computed } from 'vue';
import { api } from '../shell/api';
import { localeOf } from '../shell/format';
import { regionNames } from '../shell/intl';
import { useTaskAction } from '../tasks/useTaskAction';

/** What is recorded of how letters are read, and where only with consent. */
const props = defineProps<{ rules: Rules; mayChange: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const run = useTaskAction();
const countries = computed(() =>
  countryCodes()
    .map((value) => ({ value, title: regionNames(localeOf()).of(value) ?? value }))
    .sort((a, b) => a.title.localeCompare(b.title, localeOf())),
);
async function change(patch: { opens?: boolean; clicks?: boolean; offCountries?: string[] }): Promise<void> {
  await run('Changed.', () => api('PUT /api/tracking-rules', { body: { ...props.rules, ...patch } }));
  emit('changed');
}
</script>

<template>
  <div class="rules">
    <v-checkbox
      label="Record which links are followed"
      :model-value="rules.clicks"
      :disabled="!mayChange"
      @update:model-value="change({ clicks: $event === true })"
    />
    <v-checkbox
      label="Record whether letters are opened"
      :model-value="rules.opens"
      :disabled="!mayChange"
      @update:model-value="change({ opens: $event === true })"
    />
    <v-autocomplete
      label="Countries where people must agree first"
      multiple
      :items="countries"
      :model-value="rules.offCountries"
      :disabled="!mayChange"
      @update:model-value="change({ offCountries: $event })"
    />
    <p class="soft">
      Whoever withdraws is never recorded. Mail programs that fetch pictures by themselves are told apart;
      opens are undercounted, as many programs show no pictures.
    </p>
  </div>
</template>

<style scoped>
.rules {
  display: grid;
  gap: 4px;
}
p {
  margin: 4px 0 0;
}
</style>
