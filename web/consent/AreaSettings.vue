<script setup lang="ts">
import type { Area } from '@emporikon/contract/consent';
import { areaOfBox, boxOf, cornersOf } from '@emporikon/core/places/area';
import { computed, ref, shallowRef, watch } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';
import { useDrawing } from '../views/map/drawing';
import TownField from '../views/map/TownField.vue';
import { useMap } from '../views/map/useMap';

/** Areas that people can choose for topics by area, drawn on a map or taken from what it shows. */
const session = useSession();
const run = useTaskAction();
const mayChange = computed(() => session.may('settings.channels'));
const { data, error, load } = useFetched(() => api('GET /api/areas'), ['areas']);
const items = computed(() => data.value?.items ?? []);
const element = ref<HTMLElement | null>(null);
const at = ref('');
const areas = computed(() =>
  items.value.map(({ corners }) => ({ field: 'place', op: 'inside' as const, value: corners })),
);
const { map, box, credit, show } = useMap(element, at, {
  clusters: shallowRef([]),
  areas,
  labelOf: () => '',
  press: () => undefined,
});
const drawing = useDrawing();
/** What was drawn or taken, until it has a name. */
const outline = shallowRef<number[] | null>(null);
const redrawn = ref<Area | null>(null);
const name = ref('');

const look = ({ corners }: Area): void => show(boxOf(cornersOf(corners)));
let isFitted = false;
watch([map, items], ([opened, all]) => {
  const [first] = all;
  if (!opened || !first || isFitted) return;
  isFitted = true;
  look(first);
});
async function use(corners: number[]): Promise<void> {
  const one = redrawn.value;
  redrawn.value = null;
  if (!one) return void (outline.value = corners);
  const [params, body] = [{ id: one.id }, { version: one.version, corners }];
  await run(`Changed ${one.name}.`, () => api('PATCH /api/areas/:id', { params, body }));
  await load();
}
function draw(one: Area | null): void {
  redrawn.value = one;
  outline.value = null;
  if (one) look(one);
  if (map.value) drawing.begin(map.value);
}
async function add(): Promise<void> {
  const body = { name: name.value.trim(), corners: outline.value ?? [] };
  if (!(await run(`Added ${body.name}.`, () => api('POST /api/areas', { body })))) return;
  outline.value = null;
  name.value = '';
  await load();
}
async function retire({ id, name: shown }: Area): Promise<void> {
  await run(`${shown} is no longer offered.`, () => api('DELETE /api/areas/:id', { params: { id } }));
  await load();
}
const zoom = (by: 1 | -1): void => void map.value?.setZoom(map.value.getZoom() + by, { animate: false });
</script>

<template>
  <PageHead
    title="Areas"
    help="People who subscribe to a topic by area choose one of these, or give post codes."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <div class="line">
    <template v-if="drawing.isOn.value">
      <span role="status"
        >Press the corners of the area on the map. {{ plainNumber(drawing.corners.value) }}
        {{ drawing.corners.value === 1 ? 'corner' : 'corners' }} so far.</span
      >
      <v-btn class="word on" :disabled="drawing.corners.value < 3" @click="use(drawing.finish())"
        >Use this area</v-btn
      >
      <v-btn class="word" :disabled="!drawing.corners.value" @click="drawing.back()">Undo last corner</v-btn>
      <v-btn class="word" @click="drawing.cancel()">Cancel</v-btn>
    </template>
    <template v-else>
      <v-btn v-if="mayChange" class="word" :disabled="!map" @click="draw(null)">Draw an area</v-btn>
      <v-btn v-if="mayChange" class="word" :disabled="!box" @click="box && use(areaOfBox(box))"
        >Use what is shown</v-btn
      >
      <TownField class="town-field" @go="show" />
      <v-btn class="word" @click="zoom(1)">Zoom in</v-btn>
      <v-btn class="word" @click="zoom(-1)">Zoom out</v-btn>
    </template>
  </div>
  <form v-if="outline" class="line" aria-label="Name the area" @submit.prevent="add">
    <v-text-field
      v-model="name"
      label="Name of the area"
      maxlength="80"
      placeholder="Greater Lisbon"
      autofocus
    />
    <v-btn class="fill" type="submit" :disabled="!name.trim()">Add the area</v-btn>
    <v-btn class="quiet" @click="outline = null">Cancel</v-btn>
  </form>
  <div class="sides">
    <div class="frame" :class="{ drawing: drawing.isOn.value }">
      <div ref="element" class="map" role="region" aria-label="Map of the areas"></div>
      <span v-if="credit" class="credit">{{ credit }}</span>
    </div>
    <div class="list" role="region" aria-label="Areas" tabindex="0">
      <p v-if="data && !items.length" class="empty">No areas yet. Draw one on the map.</p>
      <p v-for="one in items" :key="one.id" class="record">
        <v-btn class="word" @click="look(one)">{{ one.name }}</v-btn>
        <span v-if="mayChange" class="do">
          <v-btn class="word" :aria-label="`Redraw ${one.name}`" @click="draw(one)">Redraw</v-btn>
          <v-btn class="word" :aria-label="`Retire ${one.name}`" @click="retire(one)">Retire</v-btn>
        </span>
      </p>
    </div>
  </div>
</template>

<style scoped src="../views/map/map.css"></style>
<style scoped>
.do {
  display: flex;
  gap: 12px;
}
</style>
