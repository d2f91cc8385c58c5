<script setup lang="ts">
import type { Contact } from '@emporikon/contract/people';

/** Whether we may write to an address, where that was ever asked or told. */
defineProps<{ consent: Contact['consent'] }>();
const WORDS = {
  agreed: ['agreed', 'Agreed to mail, and confirmed it'],
  unconfirmed: ['not confirmed', 'Agreed to mail, not yet confirmed'],
  withdrawn: ['withdrawn', 'Does not want mail'],
  undeliverable: ['undeliverable', 'Mail to this address bounces'],
} as const;
</script>

<template>
  <span v-if="consent" class="cap consent" :class="consent" :title="WORDS[consent][1]">{{
    WORDS[consent][0]
  }}</span>
</template>

<style scoped>
.consent {
  margin-left: 6px;
}
.agreed {
  color: var(--theirs);
}
.unconfirmed {
  color: var(--wait);
}
.withdrawn,
.undeliverable {
  color: var(--iron);
}
</style>
