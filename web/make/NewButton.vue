<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import type { Makeable } from '../find/commands';

/** The one strong action of a list: makes a record of its kind. */
defineProps<{ what: Exclude<Makeable, 'call'> }>();
const MakeDialog = defineAsyncComponent(() => import('./MakeDialog.vue'));
const isOpen = ref(false);
</script>

<template>
  <v-btn class="fill" @click="isOpen = true">New {{ what }}</v-btn>
  <MakeDialog v-if="isOpen" :what="what" @close="isOpen = false" />
</template>
