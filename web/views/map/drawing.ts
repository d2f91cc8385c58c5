import {
  circleMarker,
  layerGroup,
  polygon,
  type LatLng,
  type LeafletMouseEvent,
  type Map as LeafletMap,
} from 'leaflet';
import { onScopeDispose, ref, type Ref } from 'vue';
import { colourOn } from './base';

const round = (number: number): number => Number(number.toFixed(4));
const colourOf = (map: LeafletMap): string => colourOn(map.getContainer(), '--ours');

/** An area as it is drawn: corner by corner, by pressing on the map. */
export interface Drawing {
  isOn: Ref<boolean>;
  corners: Ref<number>;
  begin: (map: LeafletMap) => void;
  back: () => void;
  cancel: () => void;
  /** @returns the corners, longitude before latitude, in one list */
  finish: () => number[];
}

export function useDrawing(): Drawing {
  const isOn = ref(false);
  const corners = ref(0);
  const layer = layerGroup();
  let points: LatLng[] = [];
  let on: LeafletMap | null = null;
  const show = (): void => {
    layer.clearLayers();
    corners.value = points.length;
    if (!on) return;
    const style = { color: colourOf(on), weight: 2, fillOpacity: 0.08, interactive: false };
    polygon(points, style).addTo(layer);
    for (const point of points) circleMarker(point, { ...style, radius: 4, fillOpacity: 1 }).addTo(layer);
  };
  const add = ({ latlng }: LeafletMouseEvent): void => {
    points = [...points, latlng];
    show();
  };
  const end = (): void => {
    on?.off('click', add);
    on?.doubleClickZoom.enable();
    layer.remove();
    points = [];
    corners.value = 0;
    isOn.value = false;
  };
  onScopeDispose(end);
  return {
    isOn,
    corners,
    begin: (map) => {
      end();
      on = map;
      isOn.value = true;
      layer.addTo(map);
      map.doubleClickZoom.disable();
      map.on('click', add);
      show();
    },
    back: () => {
      points = points.slice(0, -1);
      show();
    },
    cancel: end,
    finish: () => {
      const area = points.flatMap(({ lng, lat }) => [round(lng), round(lat)]);
      end();
      return area;
    },
  };
}

/** The areas that conditions name, as they stand on the map. */
export const areaShape = (map: LeafletMap, area: readonly number[]) =>
  polygon(
    Array.from({ length: area.length / 2 }, (_, at): [number, number] => [
      area[at * 2 + 1] ?? 0,
      area[at * 2] ?? 0,
    ]),
    { color: colourOf(map), weight: 1.5, dashArray: '4 4', fillOpacity: 0.05, interactive: false },
  );
