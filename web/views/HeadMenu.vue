<script setup lang="ts">
import type { QueryField } from '@emporikon/contract/queries';
import { isGroupable, isSortable, OPERATORS } from '@emporikon/core/query/operators';
import type { Comparison, Group, Order } from '@emporikon/core/query/types';
import { computed, ref } from 'vue';

/** What the head of a column does: filter, sort, group, hide; by click, right click or key. */
const props = defineProps<{ field: QueryField; order: readonly Order[]; isName: boolean }>();
const emit = defineEmits<{
  filter: [condition: Comparison];
  sort: [order: Order];
  group: [group: Group];
  hide: [];
}>();
const isOpen = ref(false);
const isTime = computed(() => ['day', 'time'].includes(props.field.type));
const isSum = computed(() => props.field.type === 'number' || props.field.type === 'money');
const sorted = computed(() => props.order.find((one) => one.field === props.field.key)?.direction);

interface Action {
  title: string;
  run: () => void;
}
const filter =
  (condition: Omit<Comparison, 'field'>): (() => void) =>
  () =>
    emit('filter', { field: props.field.key, ...condition });
const filters = computed<Action[]>(() => {
  const { type } = props.field;
  if (!OPERATORS[type].length) return [];
  if (type === 'flag')
    return [
      { title: 'Only yes', run: filter({ op: 'is', value: true }) },
      { title: 'Only no', run: filter({ op: 'is', value: false }) },
    ];
  const own: Action[] = isTime.value
    ? [
        { title: 'Before today', run: filter({ op: 'before', value: { away: 0, unit: 'day' } }) },
        { title: 'This week', run: filter({ op: 'in', value: { unit: 'week', shift: 0 } }) },
      ]
    : type === 'user'
      ? [{ title: 'Only mine', run: filter({ op: 'is', value: ['me'] }) }]
      : [];
  return [
    { title: 'Only those with none', run: filter({ op: 'empty' }) },
    { title: 'Only those with one', run: filter({ op: 'filled' }) },
    ...own,
  ];
});
const sorts = computed<Action[]>(() => {
  if (!isSortable(props.field.type)) return [];
  const by = (direction: Order['direction']) => () => emit('sort', { field: props.field.key, direction });
  const [up, down] = isTime.value
    ? ['earliest first', 'latest first']
    : isSum.value
      ? ['smallest first', 'largest first']
      : ['A to Z', 'Z to A'];
  return [
    { title: `Sort, ${up}`, run: by('asc') },
    { title: `Sort, ${down}`, run: by('desc') },
  ];
});
const groups = computed<Action[]>(() => {
  const { key: field, type } = props.field;
  if (!isGroupable(type) || isSum.value) return [];
  if (isTime.value)
    return [
      { title: 'Group by week', run: () => emit('group', { field, by: 'week' }) },
      { title: 'Group by month', run: () => emit('group', { field, by: 'month' }) },
    ];
  return [
    ...(type === 'text'
      ? [{ title: 'Group by first letter', run: () => emit('group', { field, by: 'letter' }) }]
      : []),
    { title: `Group by ${props.field.label.toLowerCase()}`, run: () => emit('group', { field }) },
  ];
});
const parts = computed(() =>
  [
    filters.value,
    sorts.value,
    groups.value,
    props.isName ? [] : [{ title: 'Hide column', run: () => emit('hide') }],
  ].filter((part) => part.length),
);
function choose(run: () => void): void {
  isOpen.value = false;
  run();
}
</script>

<template>
  <v-menu v-model="isOpen" location="bottom start">
    <template #activator="{ props: opener }">
      <v-btn class="plain head" v-bind="opener" @contextmenu.prevent="isOpen = true"
        >{{ field.label
        }}<span v-if="sorted" aria-hidden="true">{{ sorted === 'asc' ? ' ↑' : ' ↓' }}</span></v-btn
      >
    </template>
    <v-list class="choices" :aria-label="field.label">
      <template v-for="(part, at) in parts" :key="at">
        <v-divider v-if="at" />
        <v-list-item
          v-for="action in part"
          :key="action.title"
          :title="action.title"
          @click="choose(action.run)"
        />
      </template>
    </v-list>
  </v-menu>
</template>
