<script setup lang="ts">
import { useRoute } from 'vue-router';

/** The title of a task; pressed, the task opens beside the page, at one of its later times where that is what was pressed. */
defineProps<{ task: { id: string; title: string }; time?: string | null }>();
const route = useRoute();
</script>

<template>
  <RouterLink
    :to="{ query: { ...route.query, task: task.id, time: time ?? undefined } }"
    class="quiet-link"
    data-task-link
    >{{ task.title }}</RouterLink
  >
</template>
