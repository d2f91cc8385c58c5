<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue';
import { makeableFor, type Makeable } from '../find/commands';
import { useSession } from '../shell/session';

/** The one strong action of a list: makes a record of its kind. */
const props = defineProps<{ what: Exclude<Makeable, 'call'> }>();
const MakeDialog = defineAsyncComponent(() => import('./MakeDialog.vue'));
const isOpen = ref(false);
const session = useSession();
const may = computed(() => makeableFor({ isAdmin: false, may: session.may }).includes(props.what));
</script>

<template>
  <v-btn v-if="may" class="fill" @click="isOpen = true">New {{ what }}</v-btn>
  <MakeDialog v-if="isOpen" :what="what" @close="isOpen = false" />
</template>
