<script setup lang="ts">
import { CHANNELS, type Channel } from './icons';

/** The picture of a channel. Alone it has a label; beside its word it is decoration. */
defineProps<{ channel: Channel; isBesideWord?: boolean }>();
</script>

<template>
  <v-icon
    class="channel"
    :icon="CHANNELS[channel].icon"
    size="15"
    :role="isBesideWord ? undefined : 'img'"
    :aria-label="isBesideWord ? undefined : CHANNELS[channel].word"
    :aria-hidden="isBesideWord ? 'true' : 'false'"
    :title="isBesideWord ? undefined : CHANNELS[channel].word"
  />
</template>

<style scoped>
.channel {
  color: var(--soft);
  vertical-align: -2px;
}
</style>
