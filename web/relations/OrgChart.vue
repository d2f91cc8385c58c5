<script setup lang="ts">
import { Graph, layout } from '@dagrejs/dagre';
import { computed } from 'vue';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';

/** Who reports to whom at a company, and who else works or worked there. What would close a loop is told, not drawn. */
const props = defineProps<{ companyId: string }>();
const emit = defineEmits<{ close: [] }>();
const { data, error } = useFetched(
  () => api('GET /api/companies/:id/chart', { params: { id: props.companyId } }),
  ['relations', 'people', 'employments', 'relation_kinds'],
  () => [props.companyId],
);
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
  <SidePanel label="Org chart" @close="emit('close')">
    <div v-if="data" class="content">
      <p v-if="also.length">
        <span class="cap">Also work here</span>
        <template v-for="(one, at) in also" :key="one.id"
          >{{ at ? ', ' : ''
          }}<RouterLink class="quiet-link" :to="`/people/${one.person.id}`">{{
            one.person.name
          }}</RouterLink></template
        >
      </p>
      <p v-if="former.length">
        <span class="cap">Used to work here</span>
        <template v-for="(one, at) in former" :key="one.id"
          >{{ at ? ', ' : ''
          }}<RouterLink class="quiet-link" :to="`/people/${one.person.id}`">{{
            one.person.name
          }}</RouterLink></template
        >
      </p>
      <p v-for="line in data.loops" :key="`${line.from}${line.to}`" class="late">
        {{ nameOf(line.from) }} also reports to {{ nameOf(line.to) }}, which would make a circle, so that line
        is left out.
      </p>
      <v-empty-state
        v-if="!data.people.length"
        title="No reporting lines yet"
        text="On a person’s page, under Relations and companies, say who they report to."
      />
      <div v-else class="drawing" role="group" aria-label="Who reports to whom" tabindex="0">
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
    </div>
    <p v-else-if="error" class="wrong" role="alert">{{ error }}</p>
    <div v-else class="content"><span class="ghost"></span><span class="ghost"></span></div>
  </SidePanel>
</template>

<style scoped>
.content {
  padding: 12px 24px;
}
p {
  margin: 0 0 10px;
}
.cap {
  display: block;
}
.drawing {
  overflow: auto;
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
</style>
