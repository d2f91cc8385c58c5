<script setup lang="ts">
import { useRoute } from 'vue-router';

/** Opens the history of a record beside its page. */
defineProps<{ id: string }>();
const route = useRoute();
</script>

<template>
  <RouterLink :to="{ query: { ...route.query, history: id } }" class="quiet-link">History</RouterLink>
</template>
