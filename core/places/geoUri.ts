import type { Position } from './area';

/**
 * The address of a place for whatever map program a device has: RFC 5870, latitude first, with the written address as `q`,
 * which map programs search for (common practice; the RFC knows no such parameter, and programs without it go by the position).
 * @param at null where the address could not be placed: then programs go by the words alone
 */
export const geoUri = (at: Position | null, address: string): string =>
  `geo:${at ? `${at[1]},${at[0]}` : '0,0'}?q=${encodeURIComponent(address.replace(/\s+/g, ' ').trim())}`;
