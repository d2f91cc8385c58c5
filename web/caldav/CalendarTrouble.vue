<script setup lang="ts">
import { computed } from 'vue';
import { api } from '../shell/api';
import { counted } from '../shell/format';
import { useFetched } from '../shell/live';

/** Over the calendar, where the one elsewhere needs its owner; nothing while all is well. */
const { data } = useFetched(() => api('GET /api/calendar/links'), ['caldav_links']);
const words = computed(() => {
  const links = data.value?.items ?? [];
  const clashes = links.reduce((sum, link) => sum + link.clashes.length, 0);
  const isStuck = links.some(({ state }) => ['choose', 'refused', 'forgetful'].includes(state));
  if (isStuck) return 'Your other calendar is not kept in step at the moment.';
  if (links.some(({ state }) => state === 'down')) return 'Your other calendar cannot be reached.';
  return clashes
    ? `${counted(clashes, 'meeting')} ${clashes === 1 ? 'was' : 'were'} changed here and in your other calendar.`
    : '';
});
</script>

<template>
  <p v-if="words" class="trouble" role="status">
    {{ words }} <RouterLink to="/settings/calendar" class="quiet-link">See why</RouterLink>
  </p>
</template>

<style scoped>
.trouble {
  margin: 0 0 8px;
  padding-left: 10px;
  border-left: 2px solid var(--wait);
}
</style>
