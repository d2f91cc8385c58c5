<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import type { Begun } from './around';

/** What can be made from a record: a deal, a lead, a task, a case or a project about it. */
type Kind = 'deal' | 'lead' | 'task' | 'case' | 'project';
defineProps<{ begun: Begun; kinds: readonly Kind[] }>();
const MakeDialog = defineAsyncComponent(() => import('./MakeDialog.vue'));
const making = ref<Kind | null>(null);
</script>

<template>
  <v-btn v-for="kind in kinds" :key="kind" class="word" @click="making = kind">New {{ kind }}</v-btn>
  <MakeDialog v-if="making" :what="making" :begun="begun" @close="making = null" />
</template>
