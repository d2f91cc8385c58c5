<script setup lang="ts">
import { useRoute } from 'vue-router';

/** The title of a task; pressed, the task opens beside the page. */
defineProps<{ task: { id: string; title: string } }>();
const route = useRoute();
</script>

<template>
  <RouterLink :to="{ query: { ...route.query, task: task.id } }" class="quiet-link" data-task-link>{{
    task.title
  }}</RouterLink>
</template>
