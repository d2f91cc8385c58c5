<script setup lang="ts">
import type { Cluster } from '@emporikon/contract/places';
import type { FoundRecord } from '@emporikon/contract/queries';
import { areaOfBox, type Box } from '@emporikon/core/places/area';
import type { Comparison, Filter, Query } from '@emporikon/core/query/types';
import { computed, ref, shallowRef, watch } from 'vue';
import { api, wordsOf } from '../../shell/api';
import { usePageKeys } from '../../shell/browser';
import { plainNumber } from '../../shell/format';
import { useFetched } from '../../shell/live';
import { reloadOn } from '../../shell/usePaged';
import { useQueryRef } from '../../shell/useQueryRef';
import { TABLES, type ViewedKind } from '../kinds';
import type { CardOf } from '../useCards';
import { useDrawing } from './drawing';
import TownField from './TownField.vue';
import { useMap } from './useMap';

/** The records of a view where their addresses are, and those of the part that is shown as a list. */
const props = defineProps<{
  kind: ViewedKind;
  query: Query;
  conditions: readonly Filter[];
  cardOf: CardOf;
  countWords: (count: number) => string;
}>();
const emit = defineEmits<{ area: [condition: Comparison] }>();
const [MOST_LISTED, ACROSS, CLOSE_ZOOM, NEAR_KM] = [50, 14, 10, 200];
const WORLD: Box = [-180, -85, 180, 85];

const element = ref<HTMLElement | null>(null);
const at = useQueryRef('at', '');
/** One group that was pressed, or the records around somebody. */
const picked = shallowRef<{ box: Box; words: string } | null>(null);
const clusters = shallowRef<Cluster[]>([]);
const areas = computed(() =>
  props.conditions.filter((one): one is Comparison => 'field' in one && one.op === 'inside'),
);
const namesOf = (cluster: Cluster): string => cluster.name || props.countWords(cluster.count);
const { map, box, credit, show } = useMap(element, at, { clusters, areas, labelOf: namesOf, press });
const drawing = useDrawing();

const isPoint = ([west, south, east, north]: Box): boolean => east - west < 0.001 && north - south < 0.001;
/** A little around it, so that what lies on its edge is in it. */
const around = ([west, south, east, north]: Box): Box => [
  west - 0.0005,
  south - 0.0005,
  east + 0.0005,
  north + 0.0005,
];
function press(cluster: Cluster): void {
  if (drawing.isOn.value) return;
  if (cluster.count === 1 || isPoint(cluster.box) || (map.value?.getZoom() ?? 0) >= CLOSE_ZOOM)
    picked.value = { box: around(cluster.box), words: namesOf(cluster) };
  else show(cluster.box);
}

const within = (part: Box): Query => ({
  ...props.query,
  filter: {
    all: [
      ...(props.query.filter ? [props.query.filter] : []),
      { field: 'place', op: 'inside', value: areaOfBox(part) },
    ],
  },
  groups: [],
  totals: [],
});
const plain = computed<Query>(() => ({ ...props.query, groups: [], totals: [], order: [] }));
const { data, error, load } = useFetched(async () => {
  const shown = box.value;
  if (!shown) return null;
  const listed = picked.value?.box ?? shown;
  const [found, list] = await Promise.all([
    api('POST /api/queries/map', { body: { query: plain.value as never, box: [...shown], across: ACROSS } }),
    api('POST /api/queries', { body: { query: within(listed) as never, limit: MOST_LISTED } }),
  ]);
  return { ...found, list };
}, TABLES[props.kind]);
reloadOn(() => [box.value, picked.value, plain.value], load);
watch(data, (found) => (clusters.value = found?.items ?? []));
watch(box, () => (near.value = null));

/** Where nothing was said of where to begin: where the records are. */
let isFitted = at.value !== '';
watch(map, async (opened) => {
  if (!opened || isFitted) return;
  isFitted = true;
  try {
    const { items } = await api('POST /api/queries/map', {
      body: { query: plain.value as never, box: [...WORLD], across: 4 },
    });
    if (!items.length) return;
    const bounds = (pick: (one: Cluster) => number, of: (...all: number[]) => number): number =>
      of(...items.map(pick));
    show([
      bounds((one) => one.box[0], Math.min),
      bounds((one) => one.box[1], Math.min),
      bounds((one) => one.box[2], Math.max),
      bounds((one) => one.box[3], Math.max),
    ]);
  } catch {
    // The list beside the map says what is wrong.
  }
});

const area = (value: number[]): void => emit('area', { field: 'place', op: 'inside', value });
function finish(): void {
  area(drawing.finish());
}
/** While an area is drawn: Enter uses it, Backspace takes the last corner back, Escape leaves it. */
usePageKeys((event) => {
  if (!drawing.isOn.value || (event.target as HTMLElement | null)?.closest('button, a')) return;
  if (event.key === 'Enter' && drawing.corners.value > 2) finish();
  else if (event.key === 'Backspace') drawing.back();
  else if (event.key === 'Escape') drawing.cancel();
  else return;
  event.preventDefault();
});
const isKept = (part: Box): boolean =>
  areas.value.some(({ value }) => JSON.stringify(value) === JSON.stringify(areaOfBox(part)));

interface Near {
  id: string;
  name: string;
  km: number;
}
const near = shallowRef<Near[] | null>(null);
const trouble = ref('');
function findNear(): void {
  trouble.value = '';
  if (!('geolocation' in navigator)) return void (trouble.value = 'This browser does not say where it is.');
  navigator.geolocation.getCurrentPosition(
    ({ coords: { longitude, latitude } }) => void showNear([longitude, latitude]),
    () =>
      (trouble.value =
        'Your browser did not give your location. Allow it for this page, or go to a town instead.'),
    { timeout: 10_000, maximumAge: 300_000 },
  );
}
async function showNear(position: [number, number]): Promise<void> {
  map.value?.setView([position[1], position[0]], CLOSE_ZOOM, { animate: false });
  picked.value = null;
  try {
    const { items } = await api('POST /api/queries/nearest', {
      body: { query: plain.value as never, at: position, km: NEAR_KM, limit: 30 },
    });
    near.value = items;
  } catch (problem) {
    trouble.value = wordsOf(problem);
  }
}
/** At once: presses that come while the map still moves would be lost. */
const zoom = (by: 1 | -1): void => void map.value?.setZoom(map.value.getZoom() + by, { animate: false });
const kilometres = (km: number): string =>
  `${new Intl.NumberFormat(undefined, { maximumFractionDigits: km < 10 ? 1 : 0 }).format(km)} km`;
const rows = computed<FoundRecord[]>(() => data.value?.list.items ?? []);
const heading = computed(() => {
  if (near.value) return 'Nearest to you';
  return picked.value ? picked.value.words : 'In this part of the map';
});
const placeless = computed(() => (data.value ? data.value.count - data.value.placed : 0));
const linkOf = (id: string): string => props.cardOf({ id, values: {}, links: {}, keys: [] }).to;
</script>

<template>
  <section class="layout" aria-label="Map">
    <div class="line">
      <template v-if="drawing.isOn.value">
        <span role="status"
          >Press the corners of the area on the map. {{ plainNumber(drawing.corners.value) }}
          {{ drawing.corners.value === 1 ? 'corner' : 'corners' }} so far.</span
        >
        <v-btn class="word on" :disabled="drawing.corners.value < 3" @click="finish">Use this area</v-btn>
        <v-btn class="word" :disabled="!drawing.corners.value" @click="drawing.back()"
          >Undo last corner</v-btn
        >
        <v-btn class="word" @click="drawing.cancel()">Cancel</v-btn>
      </template>
      <template v-else>
        <v-btn class="word" :disabled="!map" @click="map && drawing.begin(map)">Draw an area</v-btn>
        <v-btn class="word" :disabled="!box || isKept(box)" @click="box && area(areaOfBox(box))"
          >Only what is shown</v-btn
        >
        <v-btn class="word" @click="findNear">Near me</v-btn>
        <TownField class="town-field" @go="show" />
        <v-btn class="word" @click="zoom(1)">Zoom in</v-btn>
        <v-btn class="word" @click="zoom(-1)">Zoom out</v-btn>
      </template>
    </div>
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
    <div class="sides">
      <!-- The library sets classes of its own on what it is given. -->
      <div class="frame" :class="{ drawing: drawing.isOn.value }">
        <div ref="element" class="map" role="region" aria-label="Map of the records"></div>
        <span v-if="credit" class="credit">{{ credit }}</span>
      </div>
      <div class="list" role="region" aria-label="Records on the map" tabindex="0">
        <h2>{{ heading }}</h2>
        <p v-if="error" class="wrong" role="alert">
          {{ error }} <v-btn class="word" @click="load">Try again</v-btn>
        </p>
        <template v-else-if="!data"><span v-for="n in 6" :key="n" class="ghost"></span></template>
        <template v-else-if="near">
          <p v-if="!near.length" class="empty">Nothing within {{ plainNumber(NEAR_KM) }} km.</p>
          <p v-for="one in near" :key="one.id" class="record">
            <RouterLink :to="linkOf(one.id)">{{ one.name }}</RouterLink>
            <span class="num soft">{{ kilometres(one.km) }}</span>
          </p>
        </template>
        <template v-else>
          <p v-if="!rows.length" class="empty">Nothing that meets these conditions is here.</p>
          <p v-for="row in rows" :key="row.id" class="record">
            <RouterLink :to="cardOf(row).to">{{ cardOf(row).name }}</RouterLink>
            <span class="soft">{{
              cardOf(row)
                .shown.slice(0, 2)
                .map(({ text }) => text)
                .join(' · ')
            }}</span>
          </p>
          <p v-if="data.list.next" class="soft">The first {{ plainNumber(MOST_LISTED) }} are listed.</p>
        </template>
        <v-btn v-if="picked || near" class="word" @click="((picked = null), (near = null))"
          >Back to all of this part</v-btn
        >
        <p v-if="placeless" class="soft foot">
          {{ countWords(placeless) }} {{ placeless === 1 ? 'is' : 'are' }} not on the map: the address does
          not say where.
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped src="./map.css"></style>
