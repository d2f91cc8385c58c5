<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { servedBuild } from './live';
import { keepTyped } from './typed';

/** Says that this page is from before an upgrade, and loads the new one with what was typed. */
const own = document.querySelector('meta[name="emporikon-build"]')?.getAttribute('content') ?? '';
const isGone = ref(false);
const isOld = computed(
  () => isGone.value || (own !== '' && servedBuild.value !== null && servedBuild.value !== own),
);

// A part of the old build that is not there any more.
useRouter().onError((error: unknown) => {
  if (error instanceof Error && /dynamically imported module|Importing a module script/i.test(error.message))
    isGone.value = true;
});

function reload(): void {
  keepTyped();
  location.reload();
}
</script>

<template>
  <div v-if="isOld" class="new-version" role="status">
    <span>A new version of Emporikon is here.</span>
    <v-btn class="word on" @click="reload">Reload; what you typed stays</v-btn>
  </div>
</template>

<style scoped>
.new-version {
  display: flex;
  gap: 14px;
  justify-content: center;
  padding: 6px 12px;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
</style>
