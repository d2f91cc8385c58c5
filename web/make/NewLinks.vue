<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import type { Begun } from './forms';

/** What can be made from a record: a deal, a lead, a task about it. */
defineProps<{ begun: Begun; kinds: readonly ('deal' | 'lead' | 'task')[] }>();
const MakeDialog = defineAsyncComponent(() => import('./MakeDialog.vue'));
const making = ref<'deal' | 'lead' | 'task' | null>(null);
</script>

<template>
  <v-btn v-for="kind in kinds" :key="kind" class="word" @click="making = kind">New {{ kind }}</v-btn>
  <MakeDialog v-if="making" :what="making" :begun="begun" @close="making = null" />
</template>
