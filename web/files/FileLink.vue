<script setup lang="ts">
import { useRoute } from 'vue-router';

/** The name of a file; pressed, the file opens beside the page. */
defineProps<{ file: { id: string; name: string } }>();
const route = useRoute();
</script>

<template>
  <RouterLink :to="{ query: { ...route.query, file: file.id } }" class="quiet-link" data-file>{{
    file.name
  }}</RouterLink>
</template>
