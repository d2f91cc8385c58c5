<script setup lang="ts">
import { useRouter } from 'vue-router';
import CallSheet from './CallSheet.vue';

/** The sheet of a call, or of one that is logged by hand, as a page. */
defineProps<{ id: string }>();
const router = useRouter();
</script>

<template>
  <CallSheet :id="id" :key="id" @saved="router.push(`/people/${$event}`)" />
</template>
