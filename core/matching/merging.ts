import { STANDINGS, type Standing } from '../lifecycle/standing';

/** A value of one field as one of several records holds it. */
export interface Held {
  recordId: string;
  /** Null where the record says nothing. */
  value: string | null;
  /** Of the claim it rests on, 0 to 1; null where none is known. */
  confidence: number | null;
  byHand: boolean;
  /** When it was said, ISO 8601. */
  at: string;
}

/** A claim this sure is taken for verified, one below it for guessed. */
const VERIFIED = 0.9;

/**
 * Whose value stays when records become one: verified over guessed, then what a hand wrote over what a machine read,
 * then the newer over the older; what says nothing never.
 * @returns the id of the record, null when no record says anything
 */
export function proposeValue(held: readonly Held[]): string | null {
  const said = held.filter((one) => one.value !== null && one.value !== '');
  const rank = (one: Held): number =>
    (one.byHand || (one.confidence ?? 0) >= VERIFIED ? 2 : 0) + (one.byHand ? 1 : 0);
  const [best] = [...said].sort(
    (a, b) => rank(b) - rank(a) || b.at.localeCompare(a.at) || a.recordId.localeCompare(b.recordId),
  );
  return best?.recordId ?? null;
}

/** In words, why a value was proposed over the others. */
export function whyProposed(held: readonly Held[], recordId: string): string {
  const said = held.filter((one) => one.value !== null && one.value !== '');
  const mine = said.find((one) => one.recordId === recordId);
  if (!mine || said.length < 2) return '';
  const others = said.filter((one) => one !== mine);
  if (others.every((other) => other.value === mine.value)) return 'the same in both';
  const isVerified = (one: Held): boolean => one.byHand || (one.confidence ?? 0) >= VERIFIED;
  if (isVerified(mine) && others.some((other) => !isVerified(other))) return 'verified';
  if (mine.byHand && others.some((other) => !other.byHand)) return 'entered by hand';
  return 'newer';
}

/** Which record's id stays: the one more hangs on, then the one known longer. */
export const proposeSurvivor = (records: readonly { id: string; work: number; since: string }[]): string =>
  [...records].sort(
    (a, b) => b.work - a.work || a.since.localeCompare(b.since) || a.id.localeCompare(b.id),
  )[0]?.id ?? '';

const NEARER: readonly Standing[] = [
  'stranger',
  'prospect',
  'past customer',
  'partner',
  'personal',
  'customer',
];

/** What somebody is to us when two records of them said different things: the nearer of the two. */
export const nearerStanding = (standings: readonly string[]): Standing =>
  STANDINGS.filter((one) => standings.includes(one)).sort(
    (a, b) => NEARER.indexOf(b) - NEARER.indexOf(a),
  )[0] ?? 'stranger';

/** The facts by which two records were judged, so that a judgement can be asked for again when they have changed. */
export const factsPrint = (facts: { name: string; keys: readonly string[] }): string =>
  [facts.name, ...[...new Set(facts.keys)].sort()].join('\n');

/** Where something that happened after a merge belongs when the merge is taken apart. */
export type Side = 'survivor' | 'merged' | 'ask';

/**
 * To which of two people something that came in later belongs: to the one whose address or number it came from.
 * @param from addresses and numbers it came from or went to
 */
export function belongsTo(
  from: readonly string[],
  survivors: readonly string[],
  mergeds: readonly string[],
): Side {
  const ours = from.some((one) => survivors.includes(one));
  const theirs = from.some((one) => mergeds.includes(one));
  return ours === theirs ? 'ask' : ours ? 'survivor' : 'merged';
}
