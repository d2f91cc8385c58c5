<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { TOTALS } from '@emporikon/core/query/operators';
import type { How, Total } from '@emporikon/core/query/types';
import { computed } from 'vue';
import { cellText } from './cells';
import { HOW_WORDS } from './useShown';

/** The foot of a column: what is added up of it, each by a press. */
const props = defineProps<{
  field: QueryField;
  totals: readonly Total[];
  /** The value of each total; null until they are here. */
  values: readonly (number | string | null)[] | null;
}>();
const emit = defineEmits<{ change: [totals: Total[]] }>();
const isOf = (total: Total): boolean => total.field === props.field.key;
const isTime = computed(() => props.field.type === 'day' || props.field.type === 'time');
const called = (how: How): string =>
  isTime.value ? (how === 'least' ? 'Earliest' : 'Latest') : HOW_WORDS[how];
const shown = computed(() =>
  props.totals.flatMap((total, at) => {
    if (!isOf(total)) return [];
    const value = props.values?.[at];
    const text = value === null || value === undefined ? '–' : cellText(value, props.field);
    return [{ how: total.how, text }];
  }),
);
const has = (how: How): boolean => props.totals.some((total) => isOf(total) && total.how === how);
const toggle = (how: How): void =>
  emit(
    'change',
    has(how)
      ? props.totals.filter((total) => !isOf(total) || total.how !== how)
      : [...props.totals, { how, field: props.field.key }],
  );
</script>

<template>
  <v-menu location="top end">
    <template #activator="{ props: opener }">
      <v-btn v-if="shown.length || !isTime" class="plain foot" v-bind="opener">
        <span v-for="one in shown" :key="one.how" class="total"
          ><span class="soft">{{ called(one.how) }}</span> {{ one.text }}</span
        >
        <span v-if="!shown.length" class="soft">Total …</span>
      </v-btn>
    </template>
    <v-list class="choices" :aria-label="`Totals of ${field.label.toLowerCase()}`">
      <v-list-item
        v-for="how in TOTALS[field.type]"
        :key="how"
        :title="called(how)"
        :active="has(how)"
        @click="toggle(how)"
      />
    </v-list>
  </v-menu>
</template>

<style scoped>
.foot {
  max-width: 100%;
  height: auto;
  min-height: 24px;
  font-size: 13px;
}
.foot :deep(.v-btn__content) {
  display: grid;
  justify-items: inherit;
  white-space: nowrap;
}
.total .soft {
  font-weight: 400;
}
</style>
