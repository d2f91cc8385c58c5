<script setup lang="ts">
import type { SearchHit } from '@emporikon/contract/settings';
import { computed } from 'vue';
import { useRecordSearch } from '../kit/useRecordSearch';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import type { Recipient } from './recipients';
import { addressIn } from './recipients';

/** Whom a letter goes to: people found by name, or addresses as they are typed. */
defineProps<{ label: string; disabled?: boolean }>();
const model = defineModel<Recipient[]>({ required: true });
const undo = useUndo();
const { hits, isLooking, look } = useRecordSearch('person');
type Item = Pick<SearchHit, 'id' | 'label' | 'hint'> & { one?: Recipient };
const items = computed((): Item[] => hits.value);
const shown = computed((): Item[] =>
  model.value.map((one) => ({ id: one.address, label: one.name || one.address, hint: one.address, one })),
);
type Picked = string | Item;

async function addressOf(hit: Item): Promise<Recipient | null> {
  const person = await api('GET /api/people/:id', { params: { id: hit.id } });
  const address = person.contacts.find(({ kind }) => kind === 'email')?.normalized;
  if (!address) {
    undo.tell({ text: `${hit.label} has no email address yet.`, eventId: null, wrong: true });
    return null;
  }
  return { address, name: person.fullName.value ?? hit.label, personId: person.id };
}

async function put(picked: readonly Picked[]): Promise<void> {
  const all: Recipient[] = [];
  for (const one of picked) {
    const recipient =
      typeof one === 'string'
        ? addressIn(one)
        : one.one
          ? one.one
          : await addressOf(one).catch((problem: unknown) => (undo.fail(problem), null));
    if (recipient === null && typeof one === 'string')
      undo.tell({ text: `“${one}” is no email address.`, eventId: null, wrong: true });
    if (recipient && !all.some(({ address }) => address === recipient.address)) all.push(recipient);
  }
  model.value = all;
}
</script>

<template>
  <v-combobox
    :model-value="shown"
    :items="items"
    item-title="label"
    item-value="id"
    :label="label"
    :loading="isLooking"
    :disabled="disabled"
    multiple
    chips
    closable-chips
    return-object
    no-filter
    hide-no-data
    menu-icon=""
    autocomplete="off"
    :delimiters="[',', ';']"
    @update:search="look"
    @update:model-value="put($event as readonly Picked[])"
  >
    <template #item="{ item, props: line }">
      <v-list-item v-bind="line" :title="item.label" :subtitle="item.hint || undefined" />
    </template>
    <template #chip="{ props: chip, item }">
      <v-chip v-bind="chip" :title="item.id">{{ item.label }}</v-chip>
    </template>
  </v-combobox>
</template>
