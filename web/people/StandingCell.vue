<script setup lang="ts">
import type { PersonDossier } from '@emporikon/contract/people';
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import { useTerms } from '../terms/useTerms';

/** What somebody is to us, chosen where it stands. */
const props = defineProps<{ person: PersonDossier }>();
const emit = defineEmits<{ failed: [] }>();
const undo = useUndo();
const { nameOf, optionsOf } = useTerms();
const standing = computed(() => props.person.standingTerm ?? props.person.standing);

async function put(key: string): Promise<void> {
  const { id, version } = props.person;
  try {
    const { eventId } = await api('PATCH /api/people/:id', {
      params: { id },
      body: { version, standing: key },
    });
    undo.tell({ text: `Standing: ${nameOf(key)}.`, eventId, about: { personId: id } });
  } catch (problem) {
    undo.fail(problem);
    emit('failed');
  }
}
</script>

<template>
  <EditCell
    :value="standing"
    :shown="nameOf(standing)"
    kind="choice"
    :options="optionsOf('standing', standing)"
    label="Standing"
    field="standing"
    :save="put"
  />
</template>
