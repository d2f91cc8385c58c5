<script setup lang="ts">
import { ref } from 'vue';
import { vFocus } from '../kit/focus';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** Adds an address, a number or a link to a person. */
const props = defineProps<{ personId: string }>();
const emit = defineEmits<{ added: [] }>();
const session = useSession();
const undo = useUndo();
const isOpen = ref(false);
const kind = ref<'email' | 'phone' | 'url'>('email');
const value = ref('');

async function add(): Promise<void> {
  const typed = value.value.trim();
  if (!typed) return void (isOpen.value = false);
  try {
    const { eventId } = await api('POST /api/people/:id/contacts', {
      params: { id: props.personId },
      body: { kind: kind.value, value: typed },
    });
    undo.tell({ text: `Added ${typed}.`, eventId });
    isOpen.value = false;
    value.value = '';
    emit('added');
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <form v-if="isOpen" class="add" @submit.prevent="add" @keydown.esc.stop="isOpen = false">
    <v-select
      v-model="kind"
      class="inline-edit"
      aria-label="Kind of detail"
      :items="[
        { value: 'email', title: 'Email' },
        { value: 'phone', title: 'Phone' },
        { value: 'url', title: 'Web' },
      ]"
    />
    <v-text-field v-model="value" v-focus class="inline-edit" aria-label="Detail" />
  </form>
  <div v-else-if="session.may('people.change')" class="add-word">
    <v-btn class="word" @click="isOpen = true">Add an address, number or link</v-btn>
  </div>
</template>

<style scoped>
.add {
  display: grid;
  grid-template-columns: 90px 1fr;
  gap: 6px;
  padding: 8px 0;
  border-top: 1px solid var(--rule2);
}
.add-word {
  border-top: 1px solid var(--rule2);
  padding-top: 6px;
}
</style>
