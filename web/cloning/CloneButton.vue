<script setup lang="ts">
import type { CloneKind } from '@emporikon/contract/cloning';
import { defineAsyncComponent, ref } from 'vue';

/** Opens the copying of a record. */
defineProps<{ kind: CloneKind; id: string }>();
const CloneDialog = defineAsyncComponent(() => import('./CloneDialog.vue'));
const isOpen = ref(false);
</script>

<template>
  <v-btn class="word" @click="isOpen = true">Make a copy …</v-btn>
  <CloneDialog v-if="isOpen" :id="id" :key="id" :kind="kind" @close="isOpen = false" />
</template>
