import type { Position } from '@emporikon/core/places/area';
import { z } from 'zod';
import { askOverHttp, SourceTrouble } from './lookups/source';

/** Says where a street address is. */
export interface Geocoder {
  /**
   * @param country ISO 3166-1 alpha-2, or nothing
   * @returns null for an address it does not know
   * @throws SourceTrouble where it cannot be reached, or answers in another shape
   */
  find: (address: string, country: string) => Promise<Position | null>;
}

const WAITS_MS = 10_000;
/** A FeatureCollection (RFC 7946 §3.3), of which only points say where. */
const Answer = z.object({
  features: z.array(
    z.object({
      geometry: z.object({ type: z.string(), coordinates: z.unknown() }).nullable().optional(),
    }),
  ),
});
const Point = z.tuple([z.number().min(-180).max(180), z.number().min(-90).max(90)]).rest(z.number());

/**
 * A geocoder that is asked by GET and answers in GeoJSON (RFC 7946), the likeliest place first.
 * @param template its address, in which `{address}` and `{country}` stand for what is asked
 */
export const openGeocoder = (template: string): Geocoder => ({
  async find(address, country) {
    const url = template
      .replaceAll('{address}', encodeURIComponent(address))
      .replaceAll('{country}', encodeURIComponent(country));
    const answer = await askOverHttp(url, { signal: AbortSignal.timeout(WAITS_MS) });
    if (answer === null) return null;
    const read = Answer.safeParse(answer);
    if (!read.success) throw new SourceTrouble('nonsense', 'answers in another shape than GeoJSON');
    const point = read.data.features.find(({ geometry }) => geometry?.type === 'Point');
    const at = Point.safeParse(point?.geometry?.coordinates);
    if (point && !at.success) throw new SourceTrouble('nonsense', 'gives what is no position');
    return at.success ? [at.data[0], at.data[1]] : null;
  },
});
