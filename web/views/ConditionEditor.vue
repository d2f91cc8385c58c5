<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { OPERATOR_WORDS, OPERATORS } from '@emporikon/core/query/operators';
import type { Comparison, Operator, Unit, Value, When } from '@emporikon/core/query/types';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { computed } from 'vue';
import DateField from '../kit/DateField.vue';
import NumberField from '../kit/NumberField.vue';
import { todayOf } from '../shell/format';
import { useSession } from '../shell/session';

/** A condition on one field: how it is compared, and with what. */
const props = defineProps<{ field: QueryField; modelValue: Comparison }>();
const emit = defineEmits<{ 'update:modelValue': [condition: Comparison]; remove: []; close: [] }>();

const isTime = computed(() => ['day', 'time', 'yearly'].includes(props.field.type));
const isNumber = computed(() => props.field.type === 'number' || props.field.type === 'money');
const isPlace = computed(() => props.field.type === 'place');
/** An area and a distance are said on the map; what a condition already says of them stays to be chosen. */
const operators = computed(() =>
  OPERATORS[props.field.type]
    .filter((op) => !isPlace.value || ['empty', 'filled', props.modelValue.op].includes(op))
    .map((value) => ({ value, title: OPERATOR_WORDS[value] })),
);
const needsValue = computed(() => props.modelValue.op !== 'empty' && props.modelValue.op !== 'filled');
const perUnit = computed(() =>
  props.field.type === 'money' ? 10 ** minorDigits(useSession().me?.currency ?? 'EUR') : 1,
);
const values = computed<readonly unknown[]>(() => {
  const { value } = props.modelValue;
  return value === undefined ? [] : Array.isArray(value) ? value : [value];
});
const texts = computed(() => values.value.map(String));
const options = computed(() => {
  const known = [...(props.field.options ?? []), ...(props.field.suggestions ?? [])];
  const items = known.map(({ value, label }) => ({ value, title: label }));
  return props.field.type === 'user'
    ? [{ value: 'me', title: 'Me' }, { value: 'myTeam', title: 'My team' }, ...items]
    : items;
});

/** What a comparison begins with, until somebody says more. */
function firstValue(op: Operator): Value | undefined {
  if (op === 'empty' || op === 'filled') return undefined;
  if (props.field.type === 'flag') return true;
  if (isNumber.value) return op === 'between' ? [0, 0] : 0;
  if (isTime.value) {
    const today: When = { away: 0, unit: 'day' };
    return op === 'between'
      ? [today, { away: 30, unit: 'day' }]
      : op === 'before'
        ? { away: -30, unit: 'day' }
        : { unit: 'month', shift: 0 };
  }
  return [];
}
function set(value: Value | undefined): void {
  const { field, op } = props.modelValue;
  emit('update:modelValue', value === undefined ? { field, op } : { field, op, value });
}
function setOperator(op: Operator): void {
  const before = props.modelValue;
  const isSameShape =
    needsValue.value && (op === 'between') === (before.op === 'between') && op !== 'empty' && op !== 'filled';
  const value = isSameShape ? before.value : firstValue(op);
  emit(
    'update:modelValue',
    value === undefined ? { field: before.field, op } : { field: before.field, op, value },
  );
}

const PERIODS: { title: string; value: string; when: When }[] = [
  ...(
    [
      ['today', 0],
      ['yesterday', -1],
      ['tomorrow', 1],
    ] as const
  ).map(([title, away]) => ({ title, value: title, when: { away, unit: 'day' as const } })),
  ...(['week', 'month', 'quarter', 'year'] as const).flatMap((unit) =>
    (
      [
        ['this', 0],
        ['last', -1],
        ['next', 1],
      ] as const
    ).map(([word, shift]) => ({ title: `${word} ${unit}`, value: `${word} ${unit}`, when: { unit, shift } })),
  ),
];
const WAYS = [
  ...PERIODS.map(({ title, value }) => ({ title, value })),
  { title: 'days ago', value: 'ago' },
  { title: 'days ahead', value: 'ahead' },
  { title: 'a date', value: 'date' },
];
const same = (a: When, b: When): boolean =>
  JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort());
const wayOf = (when: When): string =>
  PERIODS.find((period) => same(period.when, when))?.value ??
  ('away' in when ? (when.away < 0 ? 'ago' : 'ahead') : 'shift' in when ? 'date' : 'date');
const dateOf = (when: When): string => ('day' in when ? when.day : todayOf());
const awayOf = (when: When): number => ('away' in when ? Math.abs(when.away) : 30);
const unitOf = (when: When): Unit => ('away' in when ? when.unit : 'day');

function setWhen(at: number, when: When): void {
  const all = values.value.map((value, index) => (index === at ? when : value)) as When[];
  set(props.modelValue.op === 'between' ? all : when);
}
function setWay(at: number, way: string): void {
  const period = PERIODS.find(({ value }) => value === way);
  if (period) return setWhen(at, period.when);
  setWhen(at, way === 'date' ? { day: todayOf() } : { away: way === 'ago' ? -30 : 30, unit: 'day' });
}
function setNumber(at: number, number: number | null | undefined): void {
  const all = values.value.map((value, index) =>
    index === at ? (number ?? 0) * perUnit.value : value,
  ) as number[];
  set(props.modelValue.op === 'between' ? all : (all[0] ?? 0));
}
</script>

<template>
  <form class="editor" :aria-label="field.label" @submit.prevent="emit('close')">
    <p class="caption">{{ field.label }}</p>
    <v-select
      v-if="operators.length > 1"
      :model-value="modelValue.op"
      :items="operators"
      label="Comparison"
      @update:model-value="setOperator"
    />
    <template v-if="needsValue">
      <v-select
        v-if="field.type === 'flag'"
        :model-value="modelValue.value"
        :items="[
          { value: true, title: 'Yes' },
          { value: false, title: 'No' },
        ]"
        label="Value"
        @update:model-value="set($event)"
      />
      <template v-else-if="isTime">
        <div v-for="(when, at) in values as When[]" :key="at" class="when">
          <v-select
            :model-value="wayOf(when)"
            :items="WAYS"
            :label="at ? 'To' : 'Period'"
            @update:model-value="setWay(at, $event)"
          />
          <NumberField
            v-if="['ago', 'ahead'].includes(wayOf(when))"
            :model-value="awayOf(when)"
            :min="0"
            :label="unitOf(when) === 'day' ? 'Days' : `${unitOf(when)}s`"
            @update:model-value="
              setWhen(at, {
                away: (wayOf(when) === 'ago' ? -1 : 1) * Math.round($event ?? 0),
                unit: unitOf(when),
              })
            "
          />
          <DateField
            v-else-if="wayOf(when) === 'date'"
            :model-value="dateOf(when)"
            label="Date"
            @update:model-value="$event && setWhen(at, { day: $event })"
          />
        </div>
      </template>
      <template v-else-if="isNumber">
        <NumberField
          v-for="(number, at) in values as number[]"
          :key="at"
          :model-value="number / perUnit"
          :label="at ? 'To' : 'Value'"
          @update:model-value="setNumber(at, $event)"
        />
      </template>
      <p v-else-if="isPlace" class="soft">Show the view as a map to see this area or to draw another.</p>
      <v-select
        v-else-if="field.options"
        :model-value="texts"
        :items="options"
        multiple
        label="Values"
        @update:model-value="set([...$event])"
      />
      <v-combobox
        v-else
        :model-value="texts"
        :items="options"
        :return-object="false"
        multiple
        label="Values"
        hint="Press Enter after each value"
        @update:model-value="set([...$event])"
      />
    </template>
    <p class="foot">
      <v-btn class="word" @click="emit('remove')">Remove condition</v-btn>
      <v-btn class="word on" type="submit">Done</v-btn>
    </p>
  </form>
</template>

<style scoped>
.editor {
  display: grid;
  gap: 8px;
  width: 320px;
  max-width: 90vw;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.caption {
  font-size: 12px;
  color: var(--soft);
}
.when {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.foot {
  display: flex;
  justify-content: space-between;
}
</style>
