<script setup lang="ts">
import BulkProgress from '../bulk/BulkProgress.vue';
import { useBulk } from '../bulk/useBulk';
import ExportProgress from '../exports/ExportProgress.vue';

/** What goes on in the background for whoever works here; one thing at a time is told at the foot. */
const bulk = useBulk();
</script>

<template>
  <BulkProgress v-if="bulk.change" />
  <ExportProgress v-else />
</template>
