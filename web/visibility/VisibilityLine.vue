<script setup lang="ts">
import type { SightKind } from '@emporikon/contract/visibility';
import { ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import VisibilityDialog from './VisibilityDialog.vue';
import { sightInWords } from './words';

/** Who may see a record, in words; pressed, it can be changed. */
const props = defineProps<{ kind: SightKind; id: string }>();
const isOpen = ref(false);
const { data: sight, load } = useFetched(
  () => api('GET /api/visibility/:kind/:id', { params: { kind: props.kind, id: props.id } }),
  ['people', 'companies', 'leads', 'deals', 'captures', 'teams', 'users'],
  () => [props.id],
);
</script>

<template>
  <v-btn class="word" :disabled="!sight" @click="isOpen = true">
    {{ sight ? sightInWords(sight) : 'Visible to …' }}
  </v-btn>
  <VisibilityDialog v-if="isOpen" :id="id" :kind="kind" @saved="load" @close="isOpen = false" />
</template>
