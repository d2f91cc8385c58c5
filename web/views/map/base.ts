import type { Box } from '@emporikon/core/places/area';
import type { FeatureCollection } from 'geojson';
import {
  canvas,
  divIcon,
  geoJSON,
  map as makeMap,
  marker,
  type GeoJSON,
  tileLayer,
  type LeafletKeyboardEvent,
  type Map as LeafletMap,
} from 'leaflet';
import 'leaflet/dist/leaflet.css';
import { feature } from 'topojson-client';
import type { GeometryCollection, Topology } from 'topojson-specification';
import countriesFile from 'world-atlas/countries-50m.json?url';

import { flattened } from './layout';

const [LEAST_ZOOM, MOST_ZOOM] = [2, 12];
/** A colour of the theme as it holds on an element. */
export const colourOn = (element: HTMLElement, name: string): string =>
  getComputedStyle(element).getPropertyValue(name).trim();

let borders: Promise<FeatureCollection> | undefined;
/** The countries of the world (Natural Earth, through world-atlas), which ship with the program. */
const loadBorders = (): Promise<FeatureCollection> =>
  (borders ??= fetch(countriesFile)
    .then((response) => response.json() as Promise<Topology<{ countries: GeometryCollection }>>)
    .then((topology) => flattened(feature(topology, topology.objects.countries))));

/** Land and borders in the colours of the theme. */
export const landStyle = (element: HTMLElement) => ({
  fillColor: colourOn(element, '--sheet'),
  fillOpacity: 1,
  color: colourOn(element, '--rule'),
  weight: 1,
});

/**
 * A map without anything on it but the countries, or the pictures of a server.
 * @param tiles the address of the pictures, where a server is set up for them
 */
export function openMap(
  element: HTMLElement,
  tiles: string | null,
): { map: LeafletMap; land: Promise<GeoJSON | null> } {
  const map = makeMap(element, {
    minZoom: LEAST_ZOOM,
    maxZoom: MOST_ZOOM,
    zoomControl: false,
    attributionControl: false,
    renderer: canvas({ padding: 0.3 }),
    maxBounds: [
      [-85, -200],
      [85, 200],
    ],
    // Leaflet ends the animation of a map that was left meanwhile, and fails.
    zoomAnimation: false,
    fadeAnimation: false,
  });
  map.setView([30, 10], LEAST_ZOOM);
  if (tiles) {
    tileLayer(tiles).addTo(map);
    return { map, land: Promise.resolve(null) };
  }
  const land = loadBorders().then((countries) =>
    geoJSON(countries, { style: () => landStyle(element), interactive: false }).addTo(map),
  );
  return { map, land };
}

const round = (number: number): number => Number(number.toFixed(4));
/** The part of the earth that a map shows. */
export function boxOfMap(map: LeafletMap): Box {
  const bounds = map.getBounds();
  const [west, east] = [Math.max(-200, bounds.getWest()), Math.min(200, bounds.getEast())];
  const [south, north] = [Math.max(-89.9, bounds.getSouth()), Math.min(89.9, bounds.getNorth())];
  // On a wide screen, more than one turn of the earth can be in view.
  return east - west > 360
    ? [-180, round(south), 180, round(north)]
    : [round(west), round(south), round(east), round(north)];
}

/** The name of a town, for finding one's way. */
export const townMark = ({ name, lon, lat }: { name: string; lon: number; lat: number }) =>
  marker([lat, lon], {
    interactive: false,
    keyboard: false,
    zIndexOffset: -1000,
    icon: divIcon({ className: 'town', html: words('town-name', name), iconSize: [6, 6] }),
  });

/** Words as an element, so that no name is ever read as HTML. */
function words(className: string, text: string): HTMLElement {
  const element = document.createElement('span');
  element.className = className;
  element.textContent = text;
  return element;
}

const [SMALLEST, LARGEST] = [26, 46];
/** Some records that are near each other, as a tag with their number; one record as a square with its name. */
export function clusterMark(
  { count, name, lon, lat }: { count: number; name: string; lon: number; lat: number },
  { label, isNamed, press }: { label: string; isNamed: boolean; press: () => void },
) {
  const size = count === 1 ? 24 : Math.min(LARGEST, SMALLEST + Math.round(Math.log10(count) * 9));
  const element = document.createElement('span');
  if (count > 1)
    element.append(words('tag num', new Intl.NumberFormat(undefined, { notation: 'compact' }).format(count)));
  else element.append(words('dot', ''), ...(isNamed ? [words('name', name)] : []));
  element.className = 'mark';
  const made = marker([lat, lon], {
    icon: divIcon({ className: count > 1 ? 'cluster' : 'single', html: element, iconSize: [size, size] }),
    keyboard: true,
    title: label,
  });
  made.on('click', press);
  made.on('keydown', ({ originalEvent }: LeafletKeyboardEvent) => {
    if (originalEvent.key !== 'Enter' && originalEvent.key !== ' ') return;
    originalEvent.preventDefault();
    press();
  });
  made.on('add', () => {
    const icon = made.getElement();
    icon?.setAttribute('role', 'button');
    icon?.setAttribute('aria-label', label);
  });
  return made;
}
