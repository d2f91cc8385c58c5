/** Longitude and latitude in degrees (WGS 84), in the order of RFC 7946 §3.1.1. */
export type Position = readonly [lon: number, lat: number];
/** West, south, east, north, as in RFC 7946 §5. A box across the 180th meridian ends east of 180. */
export type Box = readonly [west: number, south: number, east: number, north: number];

/** Mean radius of the earth in km (IUGG; Moritz, Geodetic Reference System 1980). */
export const EARTH_KM = 6371.0088;
export const MOST_CORNERS = 200;
const MOST_KM = 20_000;
const DEGREE = Math.PI / 180;

/** The corners of an area that stands as one list of numbers: longitude, latitude, longitude, … */
export const cornersOf = (area: readonly number[]): Position[] =>
  Array.from({ length: Math.floor(area.length / 2) }, (_, at): Position => [
    area[at * 2] ?? 0,
    area[at * 2 + 1] ?? 0,
  ]);

export const areaOfBox = ([west, south, east, north]: Box): number[] => [
  west,
  south,
  east,
  south,
  east,
  north,
  west,
  north,
];

export function boxOf(corners: readonly Position[]): Box {
  const [lons, lats] = [corners.map(([lon]) => lon), corners.map(([, lat]) => lat)];
  return [Math.min(...lons), Math.min(...lats), Math.max(...lons), Math.max(...lats)];
}

/** What is wrong with an area as a condition, in words; null where it will do. */
export function areaProblem(area: readonly unknown[]): string | null {
  if (!area.every((one): one is number => typeof one === 'number' && Number.isFinite(one)))
    return 'takes longitudes and latitudes';
  const corners = cornersOf(area);
  if (area.length % 2 || corners.length < 3) return 'takes three or more corners';
  if (corners.length > MOST_CORNERS) return `takes at most ${MOST_CORNERS} corners`;
  const [west, south, east, north] = boxOf(corners);
  if (south < -90 || north > 90) return 'takes latitudes from -90 to 90';
  if (west < -540 || east > 540 || east - west > 360) return 'takes longitudes of one turn of the earth';
  return east > west && north > south ? null : 'takes an area, not a line';
}

/** The same for a distance around a position: longitude, latitude, kilometres. */
export function nearProblem(near: readonly unknown[]): string | null {
  const [lon, lat, km] = near;
  const isGood =
    near.length === 3 &&
    near.every((one) => typeof one === 'number' && Number.isFinite(one)) &&
    Math.abs(Number(lon)) <= 180 &&
    Math.abs(Number(lat)) <= 90 &&
    Number(km) > 0 &&
    Number(km) <= MOST_KM;
  return isGood ? null : `takes a longitude, a latitude and up to ${MOST_KM} kilometres`;
}

/** An area, and what of it lies beyond the 180th meridian moved back by one turn, so that positions within ±180 are found. */
export function turnsOf(corners: readonly Position[]): Position[][] {
  const [west, , east] = boxOf(corners);
  const moved = (by: number): Position[] => corners.map(([lon, lat]) => [lon + by, lat]);
  return [[...corners], ...(east > 180 ? [moved(-360)] : []), ...(west < -180 ? [moved(360)] : [])];
}

const side = ([ax, ay]: Position, [bx, by]: Position, [x, y]: Position): number =>
  (bx - ax) * (y - ay) - (x - ax) * (by - ay);

function isOnEdge(a: Position, b: Position, at: Position): boolean {
  return (
    side(a, b, at) === 0 &&
    at[0] >= Math.min(a[0], b[0]) &&
    at[0] <= Math.max(a[0], b[0]) &&
    at[1] >= Math.min(a[1], b[1]) &&
    at[1] <= Math.max(a[1], b[1])
  );
}

function isInsideOne(at: Position, corners: readonly Position[]): boolean {
  let winding = 0;
  for (const [n, b] of corners.entries()) {
    const a = corners[(n || corners.length) - 1] ?? b;
    if (isOnEdge(a, b, at)) return true;
    if (a[1] <= at[1] && b[1] > at[1] && side(a, b, at) > 0) winding++;
    if (a[1] > at[1] && b[1] <= at[1] && side(a, b, at) < 0) winding--;
  }
  return winding !== 0;
}

/**
 * Whether a position lies in an area or on its edge, by the winding number (Hormann & Agathos, Computational Geometry 20,
 * 2001). Edges are straight in longitude and latitude (RFC 7946 §3.1.1).
 */
export const isInside = (at: Position, corners: readonly Position[]): boolean =>
  turnsOf(corners).some((one) => isInsideOne(at, one));

/** Great-circle distance in km, by the haversine formula (Sinnott, Sky and Telescope 68, 1984). */
export function kmBetween([lonA, latA]: Position, [lonB, latB]: Position): number {
  const half = (degrees: number): number => Math.sin((degrees * DEGREE) / 2) ** 2;
  const root = half(latB - latA) + Math.cos(latA * DEGREE) * Math.cos(latB * DEGREE) * half(lonB - lonA);
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(root)));
}

/** The box around everything within some km of a position; where a pole is in it, all longitudes. */
export function boxAround([lon, lat]: Position, km: number): Box {
  const angle = km / EARTH_KM;
  // A little more, so that rounding leaves nothing out.
  const up = (angle / DEGREE) * 1.0001 + 1e-6;
  const [south, north] = [Math.max(-90, lat - up), Math.min(90, lat + up)];
  const ratio = Math.sin(angle) / Math.cos(lat * DEGREE);
  if (south === -90 || north === 90 || angle >= Math.PI / 2 || !(ratio < 1)) return [-180, south, 180, north];
  const across = (Math.asin(ratio) / DEGREE) * 1.0001 + 1e-6;
  return [lon - across, south, lon + across, north];
}

/** Reads a place as it stands in a value: latitude, then longitude, as in a `geo` URI (RFC 5870). */
export function positionOf(value: string): Position | null {
  const [lat = NaN, lon = NaN] = value.split(',').map(Number);
  return Number.isFinite(lat) && Number.isFinite(lon) ? [lon, lat] : null;
}
