<script setup lang="ts">
import type { Present } from '@emporikon/contract/presence';
import { presenceWords } from './words';

/** Who else is at a record, at its head; nothing where nobody is. */
defineProps<{ others: readonly Present[] }>();
</script>

<template>
  <span class="presence" role="status">{{ presenceWords(others) }}</span>
</template>

<style scoped>
.presence {
  color: var(--theirs);
}
.presence:empty {
  display: none;
}
</style>
