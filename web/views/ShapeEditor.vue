<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { UNITS } from '@emporikon/core/query/operators';
import type { Group, Order, Unit } from '@emporikon/core/query/types';
import { computed } from 'vue';

/** What a view is grouped by, or in which order it stands: fields, one after the other. */
const props = defineProps<{
  what: 'groups' | 'order';
  fields: readonly QueryField[];
  groups: readonly Group[];
  order: readonly Order[];
}>();
const emit = defineEmits<{ change: [patch: { groups?: Group[]; order?: Order[] }] }>();
const MOST = 3;
const items = computed(() => props.fields.map(({ key, label }) => ({ value: key, title: label })));
const typeOf = (key: string): string | undefined => props.fields.find((field) => field.key === key)?.type;
const isTime = (key: string): boolean => ['day', 'time'].includes(typeOf(key) ?? '');
const PERIODS = UNITS.map((value) => ({ value, title: `by ${value}` }));
const DIRECTIONS = [
  { value: 'asc', title: 'ascending' },
  { value: 'desc', title: 'descending' },
];
const groupOf = (field: string): Group => (isTime(field) ? { field, by: 'month' } : { field });

function set(at: number, field: string | null): void {
  const put = <One extends { field: string }>(list: readonly One[], made: One): One[] =>
    field ? [...list.slice(0, at), made, ...list.slice(at + 1)] : list.filter((_, index) => index !== at);
  if (props.what === 'groups') emit('change', { groups: put(props.groups, groupOf(field ?? '')) });
  else emit('change', { order: put(props.order, { field: field ?? '', direction: 'asc' }) });
}
const setUnit = (at: number, by: Unit): void =>
  emit('change', { groups: props.groups.map((group, index) => (index === at ? { ...group, by } : group)) });
const setDirection = (at: number, direction: Order['direction']): void =>
  emit('change', { order: props.order.map((one, index) => (index === at ? { ...one, direction } : one)) });
</script>

<template>
  <div class="shape" role="group" :aria-label="what === 'groups' ? 'Grouped by' : 'Order'">
    <div v-for="(one, at) in what === 'groups' ? groups : order" :key="at" class="row">
      <v-autocomplete
        :model-value="one.field"
        :items="items"
        clearable
        :label="at ? 'Then by' : 'By'"
        @update:model-value="set(at, $event)"
      />
      <v-select
        v-if="what === 'groups' && isTime(one.field)"
        :model-value="(one as Group).by ?? 'day'"
        :items="PERIODS"
        label="Period"
        @update:model-value="setUnit(at, $event as Unit)"
      />
      <v-select
        v-else-if="what === 'order'"
        :model-value="(one as Order).direction"
        :items="DIRECTIONS"
        label="Direction"
        @update:model-value="setDirection(at, $event as Order['direction'])"
      />
    </div>
    <v-autocomplete
      v-if="(what === 'groups' ? groups : order).length < MOST"
      :key="(what === 'groups' ? groups : order).length"
      :items="items"
      :label="(what === 'groups' ? groups : order).length ? 'Then by' : 'By'"
      @update:model-value="$event && set((what === 'groups' ? groups : order).length, $event)"
    />
  </div>
</template>

<style scoped>
.shape {
  display: grid;
  gap: 8px;
  width: 340px;
  max-width: 90vw;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.row {
  display: grid;
  grid-template-columns: 1fr 130px;
  gap: 8px;
}
</style>
