<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed, defineAsyncComponent, ref } from 'vue';
import type { Begun } from '../make/around';
import NewLinks from '../make/NewLinks.vue';
import AssignMenu from '../dossier/AssignMenu.vue';
import PhoneButton from '../calls/PhoneButton.vue';
import WriteButton from '../letters/WriteButton.vue';
import { newMeeting } from '../meetings/link';
import MergedHere from '../lookalikes/MergedHere.vue';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

const CloneDialog = defineAsyncComponent(() => import('../cloning/CloneDialog.vue'));
const PersonData = defineAsyncComponent(() => import('../privacy/PersonData.vue'));

const props = defineProps<{ person: PersonDossier }>();
const emit = defineEmits<{ changed: []; forms: [] }>();
const undo = useUndo();
const session = useSession();
const isMerging = ref(false);
const isData = ref(false);
const isCopying = ref(false);
const begun = computed((): Begun => ({
  person: { id: props.person.id, label: props.person.fullName.value ?? '' },
  ...(props.person.company
    ? { company: { id: props.person.company.id, label: props.person.company.name } }
    : {}),
}));

async function putActive(active: boolean): Promise<void> {
  try {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id: props.person.id },
      body: { version: props.person.version, active },
    });
    undo.tell({
      text: active ? 'Active again.' : 'Inactive: kept, but left out of lists and mailings.',
      eventId,
    });
  } catch (problem) {
    undo.fail(problem);
  }
  emit('changed');
}
</script>

<template>
  <PhoneButton
    v-for="one in person.contacts.filter((contact) => contact.kind === 'phone' && contact.type !== 'fax')"
    :key="one.id"
    :number="one.normalized"
    :shown="`Call ${one.value}`"
    :person-id="person.id"
  />
  <WriteButton :letter="{ about: { personId: person.id } }" />
  <RouterLink
    v-if="session.may('ledger.add')"
    class="word"
    :to="{ path: '/calls/new', query: { person: person.id, name: person.fullName.value ?? '' } }"
    >Log a call</RouterLink
  >
  <RouterLink
    v-if="session.may('tasks.add')"
    class="word"
    :to="{ query: newMeeting($route.query, { with: { id: person.id, name: person.fullName.value ?? '' } }) }"
    >New meeting</RouterLink
  >
  <NewLinks :begun="begun" :kinds="['deal', 'lead', 'task', 'case']" />
  <AssignMenu v-if="session.may('people.change')" kind="person" :record="person" @changed="emit('changed')" />
  <v-menu>
    <template #activator="{ props: activator }">
      <v-btn class="word" v-bind="activator">More…</v-btn>
    </template>
    <v-list>
      <v-list-item title="Forms they filled in" @click="emit('forms')" />
      <v-list-item
        v-if="session.may('people.export')"
        :href="`/api/people/${person.id}/card`"
        title="Save as a contact card"
        download
      />
      <v-list-item
        v-if="session.may('people.change')"
        :title="person.inactiveSince ? 'Set active' : 'Set inactive'"
        @click="putActive(person.inactiveSince !== null)"
      />
      <v-list-item
        v-if="session.may('people.change')"
        title="Same as somebody else…"
        @click="isMerging = true"
      />
      <v-list-item v-if="session.may('people.add')" title="Make a copy…" @click="isCopying = true" />
      <v-list-item v-if="session.may('people.delete')" title="Data about them…" @click="isData = true" />
    </v-list>
  </v-menu>
  <span v-if="person.lists.length" class="soft">On {{ person.lists.map((one) => one.name).join(', ') }}</span>
  <CloneDialog v-if="isCopying" :id="person.id" kind="person" @close="isCopying = false" />
  <PersonData v-if="isData" :id="person.id" :name="person.fullName.value ?? ''" @close="isData = false" />
  <MergedHere
    :id="person.id"
    :key="person.id"
    v-model:is-picking="isMerging"
    kind="person"
    :merged="person.merged"
    :told-apart="person.toldApart"
    @changed="emit('changed')"
  />
</template>
