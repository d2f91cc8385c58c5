<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';

/** When my line rings, the sheet of the call opens; over a sheet that is being written a line says so instead. */
const route = useRoute();
const router = useRouter();
const seen = ref<string[]>([]);
const { data } = useFetched(() => api('GET /api/calls', { query: { ringing: 'true', limit: 5 } }), ['calls']);
const ringing = computed(() => (data.value?.items ?? []).find((item) => item.direction === 'in'));
const isWriting = computed(() => route.path.startsWith('/calls/') && route.params.id !== ringing.value?.id);

watch(ringing, (call) => {
  if (!call || seen.value.includes(call.id)) return;
  seen.value.push(call.id);
  if (!isWriting.value) void router.push(`/calls/${call.id}`);
});
</script>

<template>
  <div v-if="ringing && isWriting" class="rings" role="alert">
    <b>{{ ringing.person?.name ?? ringing.written }}</b> rings.
    <RouterLink :to="`/calls/${ringing.id}`" class="quiet-link">Open the call sheet</RouterLink>
  </div>
</template>

<style scoped>
.rings {
  background: var(--lit);
  padding: 6px 24px;
  border-bottom: 1px solid var(--rule);
}
</style>
