<script setup lang="ts">
import { encode } from 'uqr';
import { computed } from 'vue';

/** A QR code, dark on light in both themes, because cameras expect it so. */
const props = defineProps<{ text: string; label: string }>();
const QUIET = 4;
const code = computed(() => encode(props.text, { border: QUIET }));
const path = computed(() =>
  code.value.data.flatMap((row, y) => row.map((isDark, x) => (isDark ? `M${x} ${y}h1v1h-1z` : ''))).join(''),
);
</script>

<template>
  <svg class="qr" role="img" :aria-label="label" :viewBox="`0 0 ${code.size} ${code.size}`">
    <rect width="100%" height="100%" fill="#fff" />
    <path :d="path" fill="#000" />
  </svg>
</template>

<style scoped>
.qr {
  width: 184px;
  height: 184px;
  shape-rendering: crispEdges;
}
</style>
