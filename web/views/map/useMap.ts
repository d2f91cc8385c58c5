import type { Cluster } from '@emporikon/contract/places';
import type { Box } from '@emporikon/core/places/area';
import type { Comparison } from '@emporikon/core/query/types';
import { layerGroup, type GeoJSON, type Map as LeafletMap } from 'leaflet';
import { onBeforeUnmount, onMounted, ref, shallowRef, watch, type Ref } from 'vue';
import { useTheme } from 'vuetify';
import { api } from '../../shell/api';
import { areaShape } from './drawing';
import { apart, readable, type Spot } from './layout';
import { boxOfMap, clusterMark, landStyle, openMap, townMark } from './base';

const [MOST_TOWNS, MOST_NAMED, FITTED_ZOOM] = [26, 30, 9];

export interface OpenMap {
  map: Ref<LeafletMap | null>;
  box: Ref<Box | null>;
  /** Whose pictures these are. */
  credit: Ref<string>;
  /** Shows some part of the earth, with a little around it. */
  show: (box: Box) => void;
}

/**
 * A map in an element: the countries, some towns, the groups of records and the areas of conditions.
 * @param from where it begins, as latitude, longitude and zoom; moved with the map
 */
export function useMap(
  element: Ref<HTMLElement | null>,
  from: Ref<string>,
  shown: {
    clusters: Ref<readonly Cluster[]>;
    areas: Ref<readonly Comparison[]>;
    labelOf: (cluster: Cluster) => string;
    press: (cluster: Cluster) => void;
  },
): OpenMap {
  const map = shallowRef<LeafletMap | null>(null);
  const box = shallowRef<Box | null>(null);
  const credit = ref('');
  const [towns, marks, areas] = [layerGroup(), layerGroup(), layerGroup()];
  let land: GeoJSON | null = null;
  const theme = useTheme();

  const spotOf = ({ lon, lat }: { lon: number; lat: number }): Spot =>
    map.value?.latLngToContainerPoint([lat, lon]) ?? { x: 0, y: 0 };

  async function showTowns(of: Box): Promise<void> {
    const { items } = await api('GET /api/places/towns', {
      query: { box: of.join(',') as never, limit: MOST_TOWNS as never },
    });
    if (box.value !== of) return;
    towns.clearLayers();
    for (const town of readable(items, spotOf)) townMark(town).addTo(towns);
  }
  function moved(): void {
    if (!map.value) return;
    const { lat, lng } = map.value.getCenter();
    from.value = `${lat.toFixed(3)},${lng.toFixed(3)},${map.value.getZoom()}`;
    box.value = boxOfMap(map.value);
    // The names of towns are a help and no more: without them the map is still one.
    void showTowns(box.value).catch(() => towns.clearLayers());
  }
  onMounted(async () => {
    // Without an answer the countries and towns that ship with the program do.
    const { tiles } = await api('GET /api/places/tiles').catch(() => ({ tiles: null }));
    if (!element.value) return;
    credit.value = tiles?.words ?? '';
    const opened = openMap(element.value, tiles?.url ?? null);
    map.value = opened.map;
    for (const layer of [towns, areas, marks]) layer.addTo(opened.map);
    const [lat, lng, zoom] = from.value.split(',').map(Number);
    if (Number.isFinite(lat) && Number.isFinite(lng) && Number.isFinite(zoom))
      opened.map.setView([lat ?? 0, lng ?? 0], zoom ?? 2);
    opened.map.on('moveend', moved);
    moved();
    land = await opened.land;
    land?.bringToBack();
  });
  onBeforeUnmount(() => map.value?.remove());
  watch(shown.clusters, (found) => {
    const clusters = apart(found, spotOf);
    marks.clearLayers();
    const isNamed = clusters.filter(({ count }) => count === 1).length <= MOST_NAMED;
    for (const cluster of clusters)
      clusterMark(cluster, {
        label: shown.labelOf(cluster),
        isNamed,
        press: () => shown.press(cluster),
      }).addTo(marks);
  });
  watch(
    [shown.areas, map, theme.global.name],
    () => {
      const on = map.value;
      if (!on) return;
      areas.clearLayers();
      land?.setStyle(landStyle(on.getContainer()));
      for (const { value } of shown.areas.value)
        if (Array.isArray(value)) areaShape(on, value.map(Number)).addTo(areas);
    },
    { flush: 'post' },
  );
  return {
    map,
    box,
    credit,
    show: ([west, south, east, north]) =>
      map.value?.fitBounds(
        [
          [south, west],
          [north, east],
        ],
        { padding: [40, 40], maxZoom: FITTED_ZOOM },
      ),
  };
}
