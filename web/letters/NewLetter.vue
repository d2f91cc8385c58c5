<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';

/** Begins a letter, to somebody where the address says to whom, and opens it. */
const route = useRoute();
const router = useRouter();
const error = ref('');
onMounted(async () => {
  const { person } = route.query;
  try {
    const about = typeof person === 'string' && person ? { personId: person } : {};
    const { letter } = await api('POST /api/letters', { body: { about } });
    await router.replace(`/letters/${letter.id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  }
});
</script>

<template>
  <div class="page">
    <h1>Letter</h1>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <span v-else class="ghost"></span>
  </div>
</template>
