<script setup lang="ts">
import Progress from '../kit/Progress.vue';
import { fileSize } from '../shell/format';
import type { useUploads } from './useUploads';

/** Files on their way, and those that were not taken with the reason. */
defineProps<{ uploads: ReturnType<typeof useUploads>['uploads']['value'] }>();
const emit = defineEmits<{ dismiss: [key: number] }>();
</script>

<template>
  <ul v-if="uploads.length" class="uploads" aria-label="Files being added">
    <li v-for="one in uploads" :key="one.key">
      <template v-if="one.trouble">
        <span class="wrong" role="alert">{{ one.trouble }}</span>
        <v-btn class="word" :aria-label="`Dismiss ${one.name}`" @click="emit('dismiss', one.key)"
          >Dismiss</v-btn
        >
      </template>
      <template v-else>
        <span class="name">{{ one.name }}</span>
        <span class="soft">{{ fileSize(one.size) }}</span>
        <Progress :value="one.sent" :max="one.size" :label="`Adding ${one.name}`" />
      </template>
    </li>
  </ul>
</template>

<style scoped>
.uploads {
  list-style: none;
  margin: 0;
  padding: 6px 0;
}
li {
  display: flex;
  gap: 12px;
  align-items: center;
  padding: 3px 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
