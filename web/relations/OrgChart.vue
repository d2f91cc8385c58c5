<script setup lang="ts">
import { Graph, layout } from '@dagrejs/dagre';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';

/** Who reports to whom at a company, and who else works or worked there. What would close a loop is told, not drawn. */
const props = defineProps<{ companyId: string }>();
const { data } = useFetched(
  () => api('GET /api/companies/:id/chart', { params: { id: props.companyId } }),
  ['relations', 'people', 'employments', 'relation_kinds'],
  () => [props.companyId],
);
const isOpen = ref(false);
const WIDE = 170;
const HIGH = 44;
const placed = computed(() => {
  const graph = new Graph();
  graph.setGraph({ rankdir: 'TB', nodesep: 18, ranksep: 34, marginx: 2, marginy: 2 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const one of data.value?.people ?? []) graph.setNode(one.id, { width: WIDE, height: HIGH });
  for (const line of data.value?.lines ?? []) graph.setEdge(line.to, line.from);
  layout(graph);
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    people: (data.value?.people ?? []).map((person) => ({ ...person, ...graph.node(person.id) })),
    lines: graph.edges().map((edge) => graph.edge(edge).points as { x: number; y: number }[]),
  };
});
const nameOf = (id: string): string => data.value?.people.find((person) => person.id === id)?.name ?? '';
const former = computed(() => (data.value?.employments ?? []).filter((employment) => employment.isFormer));
const also = computed(() => (data.value?.employments ?? []).filter((employment) => !employment.isFormer));
const path = (points: readonly { x: number; y: number }[]): string =>
  points.map(({ x, y }, at) => `${at ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join(' ');
</script>

<template>
  <div v-if="also.length || former.length || data?.people.length" class="chart-line">
    <span v-if="also.length" class="soft"
      >Also here:
      <template v-for="(one, at) in also" :key="one.id"
        >{{ at ? ', ' : ''
        }}<RouterLink class="quiet-link" :to="`/people/${one.person.id}`">{{
          one.person.name
        }}</RouterLink></template
      ></span
    >
    <span v-if="former.length" class="soft"
      >Was here:
      <template v-for="(one, at) in former" :key="one.id"
        >{{ at ? ', ' : ''
        }}<RouterLink class="quiet-link" :to="`/people/${one.person.id}`">{{
          one.person.name
        }}</RouterLink></template
      ></span
    >
    <v-btn v-if="data?.people.length" class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ isOpen ? 'Hide who reports to whom' : 'Who reports to whom' }}
    </v-btn>
    <template v-if="isOpen && data">
      <p v-for="line in data.loops" :key="`${line.from}${line.to}`" class="late">
        {{ nameOf(line.from) }} reports to {{ nameOf(line.to) }} as well, which would close a circle; it is
        not drawn.
      </p>
      <div class="scroll drawing" role="group" aria-label="Who reports to whom">
        <div class="sheet" :style="{ width: `${placed.width}px`, height: `${placed.height}px` }">
          <svg :width="placed.width" :height="placed.height" aria-hidden="true">
            <path v-for="(points, at) in placed.lines" :key="at" :d="path(points)" />
          </svg>
          <RouterLink
            v-for="one in placed.people"
            :key="one.id"
            :to="`/people/${one.id}`"
            class="box"
            :class="{ outside: one.isOutside }"
            :style="{
              left: `${one.x - WIDE / 2}px`,
              top: `${one.y - HIGH / 2}px`,
              width: `${WIDE}px`,
              height: `${HIGH}px`,
            }"
          >
            <b>{{ one.name }}</b><span class="soft">{{
              one.isOutside ? 'elsewhere' : (one.jobTitle ?? '')
            }}</span>
          </RouterLink>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.chart-line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 20px;
  align-items: center;
  padding: 4px 24px;
  min-height: 34px;
  border-bottom: 1px solid var(--rule2);
}
.drawing {
  flex-basis: 100%;
  overflow: auto;
  max-height: 60vh;
  padding: 6px 0;
}
.sheet {
  position: relative;
}
svg {
  position: absolute;
  inset: 0;
}
path {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.2;
}
.box {
  position: absolute;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 3px 8px;
  text-decoration: none;
  line-height: 1.3;
  font-size: 13px;
}
.box b,
.box span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.outside {
  border-style: dashed;
}
p {
  margin: 0;
  flex-basis: 100%;
}
@media (max-width: 700px) {
  .chart-line {
    padding: 4px 14px;
  }
}
</style>
