<script setup lang="ts">
import type { Contact } from '@emporikon/contract/people';
import { reachWords } from './words';

/** That mail to an address does not arrive; nothing where it does. */
defineProps<{ reach: Contact['reach'] }>();
</script>

<template>
  <span v-if="reach !== 'good'" class="cap reach" :class="reach">{{ reachWords(reach) }}</span>
</template>

<style scoped>
.reach {
  margin-left: 6px;
}
.full {
  color: var(--wait);
}
.gone {
  color: var(--iron);
}
</style>
