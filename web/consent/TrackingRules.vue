<script setup lang="ts">
import { countryCodes } from '@emporikon/core/places/countries';
import { computed } from 'vue';
import { api } from '../shell/api';
import { localeOf } from '../shell/format';
import { regionNames } from '../shell/intl';
import { useFetched } from '../shell/live';
import { useTaskAction } from '../tasks/useTaskAction';

/** What is recorded of how letters are read, and where only with consent. */
defineProps<{ mayChange: boolean }>();
const run = useTaskAction();
const { data, load } = useFetched(() => api('GET /api/tracking-rules'), ['tracking_rules']);
const countries = computed(() =>
  countryCodes()
    .map((value) => ({ value, title: regionNames(localeOf()).of(value) ?? value }))
    .sort((a, b) => a.title.localeCompare(b.title, localeOf())),
);
async function change(patch: { opens?: boolean; clicks?: boolean; offCountries?: string[] }): Promise<void> {
  const rules = data.value;
  if (!rules) return;
  await run('Changed.', () => api('PUT /api/tracking-rules', { body: { ...rules, ...patch } }));
  await load();
}
</script>

<template>
  <div v-if="data" class="rules">
    <v-checkbox
      label="Record which links are followed"
      :model-value="data.clicks"
      :disabled="!mayChange"
      @update:model-value="change({ clicks: $event === true })"
    />
    <v-checkbox
      label="Record whether letters are opened"
      :model-value="data.opens"
      :disabled="!mayChange"
      @update:model-value="change({ opens: $event === true })"
    />
    <v-autocomplete
      label="Countries where people must agree first"
      multiple
      :items="countries"
      :model-value="data.offCountries"
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
