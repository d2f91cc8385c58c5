<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { describe } from '@emporikon/core/query/describe';
import { hasDays, hasLanes, type Layout } from '@emporikon/core/query/layout';
import { isGroupable, isSortable, OPERATORS } from '@emporikon/core/query/operators';
import type { Comparison, Filter, Group, KindSpec, Order, Registry } from '@emporikon/core/query/types';
import { computed, ref } from 'vue';
import { localeOf, money } from '../shell/format';
import { useSession } from '../shell/session';
import ConditionEditor from './ConditionEditor.vue';
import ShapeEditor from './ShapeEditor.vue';
import WordsField from './WordsField.vue';

/** The conditions of a view as a ruled strip of captions and values, each edited in place. */
const props = defineProps<{
  conditions: Filter[];
  groups: readonly Group[];
  order: readonly Order[];
  layout: Layout;
  spec: KindSpec;
  registry: Registry;
  fields: ReadonlyMap<string, QueryField>;
}>();
const emit = defineEmits<{
  change: [patch: { conditions?: Filter[]; groups?: Group[]; order?: Order[]; layout?: Layout }];
}>();

const wording = {
  locale: localeOf(),
  money: (minor: number) => money(minor, useSession().me?.currency ?? 'EUR'),
};
const described = computed(() =>
  props.conditions.map((filter) => describe(filter, props.spec, props.registry, wording)),
);
const inWords = (filter: Filter): string => {
  const { caption, value } = describe(filter, props.spec, props.registry, wording);
  return caption ? `${caption}: ${value}` : value;
};
const fieldName = (key: string): string => (props.fields.get(key)?.label ?? key).toLowerCase();
/** The comparison within a condition that can be edited by hand, and whether it is turned around. */
function comparisonOf(filter: Filter): { comparison: Comparison; isNot: boolean } | null {
  if ('not' in filter) {
    const inner = comparisonOf(filter.not);
    return inner && !inner.isNot ? { ...inner, isNot: true } : null;
  }
  return 'field' in filter ? { comparison: filter, isNot: false } : null;
}
const opened = ref<number | null>(null);
const replace = (at: number, filter: Filter): void =>
  emit('change', { conditions: props.conditions.map((one, index) => (index === at ? filter : one)) });
function remove(at: number): void {
  opened.value = null;
  emit('change', { conditions: props.conditions.filter((_, index) => index !== at) });
}
function edit(at: number, comparison: Comparison): void {
  const before = props.conditions[at];
  replace(at, before && 'not' in before ? { not: comparison } : comparison);
}

const choices = computed(() =>
  [...props.fields.values()]
    .filter(({ type }) => OPERATORS[type].length)
    .map(({ key, label }) => ({ value: key, title: label }))
    .sort((a, b) => a.title.localeCompare(b.title)),
);
const adding = ref(false);
function add(key: string): void {
  const field = props.fields.get(key);
  if (!field) return;
  adding.value = false;
  const { type } = field;
  const op = type === 'number' || type === 'money' ? 'over' : (OPERATORS[type][0] ?? 'filled');
  const value =
    type === 'flag'
      ? true
      : type === 'number' || type === 'money'
        ? 0
        : ['day', 'time', 'yearly'].includes(type)
          ? { unit: 'month' as const, shift: 0 }
          : null;
  // What has no values yet would find nothing; it begins with what is filled in.
  const condition: Comparison = value === null ? { field: key, op: 'filled' } : { field: key, op, value };
  emit('change', { conditions: [...props.conditions, condition] });
  opened.value = props.conditions.length;
}
function apply(read: { conditions: Filter[]; groups: Group[]; order: Order[] }): void {
  emit('change', {
    conditions: [...props.conditions, ...read.conditions],
    ...(read.groups.length ? { groups: read.groups } : {}),
    ...(read.order.length ? { order: read.order } : {}),
  });
}
const groupable = computed(() => [...props.fields.values()].filter((field) => isGroupable(field.type)));
const sortable = computed(() => [...props.fields.values()].filter((field) => isSortable(field.type)));
const groupWords = computed(() =>
  props.groups.length
    ? props.groups
        .map(({ field, by }) =>
          typeof by === 'string' && by !== 'letter' ? `${fieldName(field)} by ${by}` : fieldName(field),
        )
        .join(', then ')
    : 'nothing',
);
const BY = { lanes: hasLanes, calendar: hasDays };
const titleBy = (as: keyof typeof BY, label: string): string =>
  `${as === 'lanes' ? 'Lanes' : 'Calendar'} by ${label.toLowerCase()}`;
const layouts = computed<{ title: string; layout: Layout }[]>(() => [
  { title: 'Table', layout: { as: 'table' } },
  { title: 'Cards', layout: { as: 'cards' } },
  ...(['lanes', 'calendar'] as const).flatMap((as) =>
    [...props.fields.values()]
      .filter(BY[as])
      .map(({ key, label }) => ({ title: titleBy(as, label), layout: { as, by: key } })),
  ),
  ...(props.fields.has('place') ? [{ title: 'Map', layout: { as: 'map' as const } }] : []),
]);
const layoutWords = computed(() => {
  const { as, by = '' } = props.layout;
  const words = as === 'lanes' || as === 'calendar' ? titleBy(as, props.fields.get(by)?.label ?? '') : as;
  return words.toLowerCase();
});
const orderWords = computed(() =>
  props.order.length
    ? props.order
        .map(({ field, direction }) => `${fieldName(field)}${direction === 'desc' ? ', descending' : ''}`)
        .join(', then ')
    : fieldName(props.spec.name),
);
</script>

<template>
  <div class="strip" role="group" aria-label="Conditions">
    <v-menu
      v-for="(one, at) in described"
      :key="at"
      :model-value="opened === at"
      :close-on-content-click="false"
      location="bottom start"
      @update:model-value="opened = $event ? at : null"
    >
      <template #activator="{ props: opener }">
        <v-btn class="plain cell" v-bind="opener"
          ><span class="caption">{{ one.caption || 'Condition' }}</span
          ><span class="value">{{ one.value }}</span></v-btn
        >
      </template>
      <ConditionEditor
        v-if="
          conditions[at] &&
          comparisonOf(conditions[at]) &&
          fields.get(comparisonOf(conditions[at])?.comparison.field ?? '')
        "
        :field="fields.get(comparisonOf(conditions[at])!.comparison.field)!"
        :model-value="comparisonOf(conditions[at])!.comparison"
        @update:model-value="edit(at, $event)"
        @remove="remove(at)"
        @close="opened = null"
      />
      <div v-else class="whole">
        <p>{{ inWords(conditions[at] as Filter) }}</p>
        <v-btn class="word" @click="remove(at)">Remove condition</v-btn>
      </div>
    </v-menu>
    <WordsField :kind="spec.kind" :in-words="inWords" :field-name="fieldName" @apply="apply" />
    <v-menu v-model="adding" :close-on-content-click="false" location="bottom end">
      <template #activator="{ props: opener }"
        ><v-btn class="word by-field" v-bind="opener">By field …</v-btn></template
      >
      <div class="whole">
        <v-autocomplete
          :items="choices"
          label="Field"
          autofocus
          @update:model-value="$event && add($event)"
        />
      </div>
    </v-menu>
    <v-menu :close-on-content-click="false" location="bottom end">
      <template #activator="{ props: opener }">
        <v-btn class="plain cell shape" v-bind="opener"
          ><span class="caption">Grouped by</span><span class="value">{{ groupWords }}</span></v-btn
        >
      </template>
      <ShapeEditor
        what="groups"
        :fields="groupable"
        :groups="groups"
        :order="order"
        @change="emit('change', $event)"
      />
    </v-menu>
    <v-menu :close-on-content-click="false" location="bottom end">
      <template #activator="{ props: opener }">
        <v-btn class="plain cell shape" v-bind="opener"
          ><span class="caption">Order</span><span class="value">{{ orderWords }}</span></v-btn
        >
      </template>
      <ShapeEditor
        what="order"
        :fields="sortable"
        :groups="groups"
        :order="order"
        @change="emit('change', $event)"
      />
    </v-menu>
    <v-menu location="bottom end">
      <template #activator="{ props: opener }">
        <v-btn class="plain cell shape" v-bind="opener"
          ><span class="caption">Shown as</span><span class="value">{{ layoutWords }}</span></v-btn
        >
      </template>
      <v-list class="choices" aria-label="Shown as">
        <v-list-item
          v-for="one in layouts"
          :key="one.title"
          :title="one.title"
          :active="one.title.toLowerCase() === layoutWords"
          @click="emit('change', { layout: one.layout })"
        />
      </v-list>
    </v-menu>
  </div>
</template>

<style scoped>
.strip {
  display: flex;
  flex-wrap: wrap;
  align-items: stretch;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.strip .v-btn.cell {
  height: auto;
  min-height: 48px;
  padding: 6px 14px;
  border-right: 1px solid var(--rule);
  border-radius: 0;
  text-align: left;
  max-width: 260px;
}
.cell :deep(.v-btn__content) {
  display: grid;
  justify-items: start;
  white-space: normal;
}
.strip .v-btn.cell.shape {
  background: var(--ground);
  border-right: 0;
  border-left: 1px solid var(--rule);
}
.caption {
  font-size: 12px;
  color: var(--soft);
}
.by-field {
  align-self: center;
  margin-right: 12px;
}
.whole {
  display: grid;
  gap: 8px;
  width: 300px;
  max-width: 90vw;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
</style>
