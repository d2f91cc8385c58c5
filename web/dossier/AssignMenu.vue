<script setup lang="ts">
import type { Named } from '@emporikon/contract/common';
import { computed } from 'vue';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import { useTeam } from '../shell/useTeam';

/** Who looks after a person or a company, and giving it to a colleague. */
const props = defineProps<{
  kind: 'person' | 'company';
  record: { id: string; version: number; owner: Named | null };
}>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
const team = useTeam();
const others = computed(() => team.value.filter((user) => user.id !== props.record.owner?.id));

async function assign(owner: Named | null): Promise<void> {
  const request = {
    params: { id: props.record.id },
    body: { version: props.record.version, ownerId: owner?.id ?? null },
  };
  try {
    const { eventId } =
      props.kind === 'person'
        ? await api('PATCH /api/people/:id', request)
        : await api('PATCH /api/companies/:id', request);
    const about = props.kind === 'person' ? { personId: props.record.id } : { companyId: props.record.id };
    undo.tell({ text: owner ? `Assigned to ${owner.name}.` : 'Nobody owns it now.', eventId, about });
  } catch (problem) {
    undo.fail(problem);
  }
  emit('changed');
}
</script>

<template>
  <v-menu>
    <template #activator="{ props: activator }">
      <v-btn class="word" v-bind="activator">Assign to…</v-btn>
    </template>
    <v-list>
      <v-list-item v-for="user in others" :key="user.id" :title="user.name" @click="assign(user)" />
      <v-list-item v-if="record.owner" title="Nobody" @click="assign(null)" />
    </v-list>
  </v-menu>
</template>
