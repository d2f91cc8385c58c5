import { positionOf } from '../places/area';

/** What stands around the features of a file (RFC 7946 §3.3), and its media type (§12). */
export const FEATURES = { head: '{"type":"FeatureCollection","features":[', tail: '\n]}\n' } as const;
export const GEOJSON_MEDIA_TYPE = 'application/geo+json';

/**
 * One record as a feature (RFC 7946 §3.2), longitude first (§3.1.1); what has no place has no geometry.
 * @param place latitude and longitude with a comma between
 * @param properties what is said of it besides
 */
export function writeFeature(
  id: string,
  place: string | null,
  properties: Readonly<Record<string, unknown>>,
): string {
  const at = place === null ? null : positionOf(place);
  const geometry = at && { type: 'Point', coordinates: [at[0], at[1]] };
  return JSON.stringify({ type: 'Feature', id, geometry, properties });
}
