<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue';
import { makeableFor } from '../find/commands';
import { useSession } from '../shell/session';
import type { Begun } from './around';

/** What can be made from a record: a deal, a lead, a task, a case or a project about it. */
type Kind = 'deal' | 'lead' | 'task' | 'case' | 'project';
const props = defineProps<{ begun: Begun; kinds: readonly Kind[] }>();
const MakeDialog = defineAsyncComponent(() => import('./MakeDialog.vue'));
const session = useSession();
const made = computed(() => {
  const allowed = makeableFor({ isAdmin: false, may: session.may });
  return props.kinds.filter((kind) => allowed.includes(kind));
});
const making = ref<Kind | null>(null);
</script>

<template>
  <v-btn v-for="kind in made" :key="kind" class="word" @click="making = kind">New {{ kind }}</v-btn>
  <MakeDialog v-if="making" :what="making" :begun="begun" @close="making = null" />
</template>
