/** What of the reading of a letter is recorded. */
export const FOLLOWS = ['nothing', 'clicks', 'opens', 'both'] as const;
export type Follows = (typeof FOLLOWS)[number];

export interface TrackingRules {
  opens: boolean;
  clicks: boolean;
  /** ISO 3166-1; nothing is recorded of people there unless they agreed to it. */
  offCountries: readonly string[];
}

/**
 * What may be recorded of how somebody reads a letter: nothing against their wish, nothing without one where their country asks
 * for consent first, and otherwise what the organisation records.
 */
export function followsOf(
  { opens, clicks, offCountries }: TrackingRules,
  country: string,
  wish: 'agreed' | 'unconfirmed' | 'withdrawn' | null,
): Follows {
  if (wish === 'withdrawn' || (wish !== 'agreed' && offCountries.includes(country))) return 'nothing';
  if (opens && clicks) return 'both';
  return opens ? 'opens' : clicks ? 'clicks' : 'nothing';
}

/** Programs that say of themselves that they are no person: robots, scanners, and caches that fetch the pictures of every mail. */
const PROGRAMS =
  /image-?proxy|mail-?proxy|ggpht|bot\b|bots\b|crawl|spider|preview|scan|prefetch|proofpoint|protect|security|barracuda|link-?check|monitor|python|curl|wget|java\/|go-http|okhttp|headless|axios|node-fetch/i;
/** A name that is no more than what every browser begins with is the one of a cache (common practice). */
const BARE = /^\s*(?:Mozilla\/[\d.]+\s*)?$/;
/** Within so many seconds of the hand-over it is the mail server that looks, not the reader (common practice). */
const AT_ONCE_S = 5;

export interface Fetch {
  /** What the program calls itself (RFC 9110, 10.1.5). */
  userAgent: string;
  method: string;
  /** RFC 8941 style hints of browsers that fetch ahead: `Sec-Purpose`, `Purpose`, `X-Moz`. */
  purpose: string;
  /** Since the letter was handed over. */
  seconds: number;
}

/** Whether a person fetched something of a letter, as far as that can be told; mail programs and scanners fetch by themselves. */
export const isByPerson = ({ userAgent, method, purpose, seconds }: Fetch): boolean =>
  method === 'GET' &&
  seconds >= AT_ONCE_S &&
  !/prefetch|preview/i.test(purpose) &&
  !BARE.test(userAgent) &&
  !PROGRAMS.test(userAgent);
