<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import PhoneButton from '../calls/PhoneButton.vue';
import MergedHere from '../lookalikes/MergedHere.vue';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

const props = defineProps<{ person: PersonDossier }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();

async function putActive(active: boolean): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id: props.person.id },
      body: { version: props.person.version, active },
    });
    undo.tell({ text: active ? 'Worked with again.' : 'Inactive: kept, but out of the lists.', eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  emit('changed');
}
</script>

<template>
  <div class="ways">
    <PhoneButton
      v-for="one in person.contacts.filter((contact) => contact.kind === 'phone' && contact.type !== 'fax')"
      :key="one.id"
      :number="one.normalized"
      :shown="`Call ${one.value}`"
      :person-id="person.id"
    />
    <RouterLink
      class="word"
      :to="{ path: '/calls/new', query: { person: person.id, name: person.fullName.value ?? '' } }"
      >Write a call</RouterLink
    >
    <a class="word" :href="`/api/people/${person.id}/card`" download>Save as a card</a>
    <span v-if="person.lists.length" class="soft"
      >On {{ person.lists.map((one) => one.name).join(', ') }}</span
    >
    <button class="word" @click="putActive(person.inactiveSince !== null)">
      {{ person.inactiveSince ? 'Work with them again' : 'Set inactive' }}
    </button>
    <MergedHere :id="person.id" :key="person.id" kind="person" :merged="person.merged" />
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  padding: 4px 24px;
  align-items: baseline;
  border-bottom: 1px solid var(--rule2);
}
</style>
