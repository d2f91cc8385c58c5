<script setup lang="ts">
import type { Data, Layout } from 'plotly.js';
import type * as Plotly from 'plotly.js-basic-dist-min';
import { onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useTheme } from 'vuetify';

/** A chart, drawn with a library that is only loaded where one is. The table beside it says the same in figures. */
const props = defineProps<{
  traces: () => Data[];
  layout: () => Partial<Layout>;
  label: string;
  of: unknown;
}>();
const element = ref<HTMLElement | null>(null);
const theme = useTheme();
let plotly: typeof Plotly | null = null;

/** Tells the library, by the sign it looks for, that this page allows no styles but its own files. */
function forbidStyles(): void {
  const id = 'plotly.js-style-global';
  if (document.getElementById(id)) return;
  const sign = document.createElement('template');
  sign.id = id;
  sign.className = 'no-inline-styles';
  document.head.append(sign);
}

async function draw(): Promise<void> {
  forbidStyles();
  plotly ??= await import('plotly.js-basic-dist-min');
  if (element.value)
    await plotly.react(element.value, props.traces(), props.layout(), {
      displayModeBar: false,
      responsive: true,
    });
}
onMounted(() => void draw());
watch([() => props.of, () => theme.global.name.value], () => requestAnimationFrame(() => void draw()));
onBeforeUnmount(() => {
  if (element.value) plotly?.purge(element.value);
});
</script>

<template>
  <div ref="element" class="chart" role="img" :aria-label="label"></div>
</template>

<style scoped>
/* The library writes its own rules into the page, which the page's security forbids; these are the ones it needs. */
.chart {
  width: 100%;
  height: 250px;
}
.chart :deep(.svg-container) {
  position: relative;
}
.chart :deep(.main-svg) {
  position: absolute;
  top: 0;
  left: 0;
  pointer-events: none;
  overflow: hidden;
}
.chart :deep(.main-svg .draglayer) {
  pointer-events: all;
}
.chart :deep(.crisp) {
  shape-rendering: crispEdges;
}
</style>
