import type { Cluster } from '@emporikon/contract/places';
import type { Feature, FeatureCollection, Geometry, Position } from 'geojson';

/** Where something stands on the screen, in pixels. */
export interface Spot {
  x: number;
  y: number;
}

/** Goes on counting longitudes where a line crosses the 180th meridian, so that it is not drawn around the whole earth. */
const unwrapped = (ring: Position[]): Position[] => {
  let turn = 0;
  return ring.map(([lon = 0, lat = 0], at) => {
    const before = ring[at - 1]?.[0] ?? lon;
    if (lon - before > 180) turn -= 360;
    if (lon - before < -180) turn += 360;
    return [lon + turn, lat];
  });
};
const moved = (rings: Position[][], by: number): Position[][] =>
  rings.map((ring) => ring.map(([lon = 0, lat = 0]) => [lon + by, lat]));
/** A polygon across the meridian stands on both sides of the map. */
function bothSides(rings: Position[][]): Position[][][] {
  const whole = rings.map(unwrapped);
  const lons = whole.flatMap((ring) => ring.map(([lon = 0]) => lon));
  const [west, east] = [
    lons.reduce((a, b) => Math.min(a, b), 180),
    lons.reduce((a, b) => Math.max(a, b), -180),
  ];
  return [whole, ...(east > 180 ? [moved(whole, -360)] : []), ...(west < -180 ? [moved(whole, 360)] : [])];
}

/** Countries as they can be drawn on a flat map. */
export function flattened({ features }: FeatureCollection): FeatureCollection {
  const flat = (geometry: Geometry): Geometry =>
    geometry.type === 'Polygon'
      ? { type: 'MultiPolygon', coordinates: bothSides(geometry.coordinates) }
      : geometry.type === 'MultiPolygon'
        ? { type: 'MultiPolygon', coordinates: geometry.coordinates.flatMap(bothSides) }
        : geometry;
  return {
    type: 'FeatureCollection',
    features: features.map((one): Feature => ({ ...one, geometry: flat(one.geometry) })),
  };
}

/** Those of some names that can be read beside each other, the first ones first. */
export function readable<Named extends { name: string }>(
  all: readonly Named[],
  spotOf: (one: Named) => Spot,
): Named[] {
  const [high, perLetter] = [16, 6.5];
  const taken: { left: number; right: number; y: number }[] = [];
  return all.filter((one) => {
    const { x, y } = spotOf(one);
    const right = x + 8 + one.name.length * perLetter;
    if (taken.some((other) => Math.abs(other.y - y) < high && other.left < right && x < other.right))
      return false;
    taken.push({ left: x, right, y });
    return true;
  });
}

const NEAR_PX = 36;
/** Groups whose marks would cover each other, as one. */
export function apart(
  clusters: readonly Cluster[],
  spotOf: (at: { lon: number; lat: number }) => Spot,
): Cluster[] {
  const kept: (Cluster & { spot: Spot })[] = [];
  for (const cluster of clusters) {
    const spot = spotOf(cluster);
    const near = kept.find((one) => Math.hypot(one.spot.x - spot.x, one.spot.y - spot.y) < NEAR_PX);
    if (!near) {
      kept.push({ ...cluster, spot });
      continue;
    }
    const [a, b] = [near.box, cluster.box];
    near.box = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
    near.count += cluster.count;
    near.id = null;
    near.name = '';
  }
  return kept.map(({ spot: _spot, ...cluster }) => cluster);
}
