<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRecordSearch } from '../kit/useRecordSearch';
import { useTeam } from '../shell/useTeam';
import type { Picked } from './picked';

/** A field in which somebody who is to come is looked for: a colleague, a person, or anybody by their address. */
const props = defineProps<{ label: string; chosen: readonly Picked[] }>();
const emit = defineEmits<{ pick: [who: Picked] }>();
const team = useTeam();
const text = ref('');
const { hits, isLooking, look, clear, isLongEnough } = useRecordSearch('person');
const ADDRESS = /^[^\s@<>"]+@[^\s@<>"]+\.[^\s@<>"]+$/;

const found = computed((): Picked[] => {
  const typed = text.value.trim().toLowerCase();
  if (!typed) return [];
  const colleagues = team.value
    .filter(
      ({ name }) =>
        name
          .toLowerCase()
          .split(' ')
          .some((part) => part.startsWith(typed)) || name.toLowerCase().startsWith(typed),
    )
    .map(({ id, name }): Picked => ({ key: id, name, hint: 'Colleague', userId: id }));
  const people = hits.value.map(({ id, label, hint }): Picked => ({
    key: id,
    name: label,
    hint,
    personId: id,
  }));
  const address = ADDRESS.test(typed)
    ? [{ key: typed, name: typed, hint: 'Invite this address', email: typed }]
    : [];
  const known = new Set(props.chosen.map(({ key }) => key));
  return [...colleagues, ...people, ...address].filter(({ key }) => !known.has(key));
});

function type(typed: string | null): void {
  text.value = typed ?? '';
  void look(text.value);
}
function pick(one: Picked | null | undefined): void {
  if (!one) return;
  emit('pick', one);
  text.value = '';
  clear();
}
/** Enter takes the first that is found, also where the answer is still on its way. */
async function takeFirst(): Promise<void> {
  if (!found.value.length && (isLooking.value || isLongEnough(text.value))) {
    await look(text.value);
    pick(found.value[0]);
  }
}
</script>

<template>
  <v-autocomplete
    :model-value="null"
    :search="text"
    :items="found"
    item-title="name"
    item-value="key"
    :label="label"
    placeholder="Name or email address"
    :loading="isLooking"
    return-object
    no-filter
    hide-no-data
    auto-select-first
    menu-icon=""
    autocomplete="off"
    maxlength="200"
    @update:search="type"
    @update:model-value="pick"
    @keydown.enter.prevent="takeFirst"
  >
    <template #item="{ item, props: line }">
      <v-list-item v-bind="line" :title="item.name" :subtitle="item.hint || undefined" />
    </template>
  </v-autocomplete>
</template>
