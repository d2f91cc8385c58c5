import { AGREES, LEVELS, MISSING } from './compare';
import type { Kind } from './plan';

/** How often each outcome of a comparison was seen: mixed-radix pattern numbers and their counts. */
export interface Patterns {
  /** `levels[p * fields + f]`: what field `f` came to in pattern `p`. */
  levels: Uint8Array;
  counts: Float64Array;
  size: number;
}

/** One kind of pair: the share it has among the pairs, and how likely each level of each field is in it. */
export interface PairClass {
  name: 'same' | 'moved' | 'strangers' | 'colleagues' | 'namesakes' | 'family' | 'shared';
  share: number;
  /** `odds[f][level]`; a missing value says nothing, so it has no probability. */
  odds: Float64Array[];
}

/** The model of a table: pairs of one person, and the kinds of pairs of two. */
export interface Model {
  kinds: Kind[];
  classes: PairClass[];
  rounds: number;
}

const WORK: readonly Kind[] = ['company', 'street', 'postcode', 'city'];
/** How likely agreement is at first, by class; EM moves all of it to where the data are. */
const START: Record<PairClass['name'], (kind: Kind) => number> = {
  same: (kind) =>
    kind === 'title' || kind === 'text' ? 0.6 : kind === 'phone' || kind === 'email' ? 0.6 : 0.8,
  moved: (kind) =>
    WORK.includes(kind)
      ? 0.04
      : kind === 'title'
        ? 0.2
        : kind === 'email'
          ? 0.15
          : kind === 'phone'
            ? 0.7
            : 0.85,
  strangers: (kind) => (kind === 'email' || kind === 'phone' ? 0.001 : kind === 'city' ? 0.1 : 0.03),
  colleagues: (kind) =>
    WORK.includes(kind) ? 0.8 : kind === 'phone' ? 0.1 : kind === 'email' ? 0.005 : 0.04,
  namesakes: (kind) => (kind === 'given' || kind === 'family' ? 0.85 : kind === 'email' ? 0.001 : 0.03),
  family: (kind) =>
    kind === 'family' || kind === 'street' || kind === 'postcode' || kind === 'city'
      ? 0.85
      : kind === 'company'
        ? 0.4
        : kind === 'phone'
          ? 0.3
          : 0.03,
  shared: (kind) => (kind === 'phone' ? 0.6 : kind === 'email' ? 0.15 : kind === 'city' ? 0.1 : 0.03),
};
const SHARES: Record<PairClass['name'], number> = {
  same: 0.12,
  moved: 0.03,
  strangers: 0.45,
  colleagues: 0.15,
  namesakes: 0.15,
  family: 0.07,
  shared: 0.03,
};
/** Whether a class is of pairs of one person: at the same place, or at another since. */
export const isOne = (name: PairClass['name']): boolean => name === 'same' || name === 'moved';

const MOST_CHANGED: Partial<Record<Kind, number>> = { given: 0.02, family: 0.04 };
const DIFFERENT_NAME = 6;
const ROUNDS = 60;
const CLOSE = 1e-5;
/** Weight of the starting values, in pairs for every thousand: enough to keep a class what it is when few pairs are of it. */
const PRIOR = 0.004;
const LEAST = 1e-6;

function startOf(name: PairClass['name'], kind: Kind): Float64Array {
  const odds = new Float64Array(LEVELS[kind].length);
  const agree = START[name](kind);
  const rest = odds.length - 2;
  const near = (1 - agree) * (isOne(name) && agree > 0.5 ? 0.7 : 0.12);
  const far = Math.min(1 - agree - near, (isOne(name) && MOST_CHANGED[kind]) || 1);
  const differs = kind === 'given' || kind === 'family' ? DIFFERENT_NAME : odds.length - 1;
  for (let level = 1; level < odds.length; level++)
    odds[level] = level === AGREES ? agree : level === differs ? far : near / Math.max(1, rest - 1);
  return odds;
}

/** What is known besides the pairs. */
export interface Known {
  /** Patterns of pairs that people have judged. */
  labelled?: { same: Patterns; different: Patterns } | null;
  /** How many pairs of two people may share both names, going by how common the names are. */
  namesakes?: number;
}

/**
 * Estimates from unlabelled pairs how likely each outcome is among pairs of one person and among pairs of two, by
 * expectation and maximisation (Winkler 1988), with pairs of two people parted into latent classes that differ in what
 * they have in common, since one class alone would take colleagues for one person. Labelled pairs count as what they are.
 * @param patterns outcomes with how often they were seen
 */
export function estimate(
  kinds: Kind[],
  patterns: Patterns,
  { labelled = null, namesakes = Infinity }: Known = {},
): Model {
  const hasWork = kinds.some((kind) => kind === 'company');
  const hasHome = kinds.some((kind) => kind === 'street' || kind === 'postcode' || kind === 'city');
  const names: PairClass['name'][] = ['same', 'strangers'];
  if (hasWork || hasHome) names.push('moved');
  if (hasWork) names.push('colleagues');
  if (kinds.includes('family')) names.push('namesakes');
  if (hasHome && kinds.includes('family')) names.push('family');
  if (kinds.includes('phone') || kinds.includes('email')) names.push('shared');
  const whole = names.reduce((sum, name) => sum + SHARES[name], 0);
  let classes = names.map((name): PairClass => ({
    name,
    share: SHARES[name] / whole,
    odds: kinds.map((kind) => startOf(name, kind)),
  }));
  const total = patterns.counts.subarray(0, patterns.size).reduce((sum, one) => sum + one, 0);
  if (!total) return { kinds, classes, rounds: 0 };
  let before = -Infinity;
  let round = 0;
  for (; round < ROUNDS; round++) {
    const sums = classes.map((one) => ({
      share: PRIOR * total * SHARES[one.name],
      odds: kinds.map((kind) => startOf(one.name, kind).map((odd) => odd * PRIOR * total + LEAST * total)),
    }));
    let likelihood = 0;
    const gather = (from: Patterns, allowed: (name: PairClass['name']) => boolean): void => {
      const weights = new Float64Array(classes.length);
      for (let pattern = 0; pattern < from.size; pattern++) {
        const count = from.counts[pattern] as number;
        let sum = 0;
        for (const [index, one] of classes.entries()) {
          const weight = allowed(one.name)
            ? one.share * likelihoodOf(one, from.levels, pattern * kinds.length, kinds.length)
            : 0;
          weights[index] = weight;
          sum += weight;
        }
        if (sum <= 0) continue;
        likelihood += count * Math.log(sum);
        for (const [index, into] of sums.entries()) {
          const share = ((weights[index] as number) / sum) * count;
          if (share < 1e-12) continue;
          into.share += share;
          for (let field = 0; field < kinds.length; field++) {
            const level = from.levels[pattern * kinds.length + field] as number;
            if (level !== MISSING)
              (into.odds[field] as Float64Array)[level] =
                ((into.odds[field] as Float64Array)[level] as number) + share;
          }
        }
      }
    };
    gather(patterns, () => true);
    if (labelled) {
      gather(labelled.same, isOne);
      gather(labelled.different, (name) => !isOne(name));
    }
    const all = sums.reduce((sum, one) => sum + one.share, 0);
    classes = classes.map((one, index) => {
      const got = sums[index] as (typeof sums)[number];
      return {
        name: one.name,
        share: got.share / all,
        odds: got.odds.map((odds, field) => {
          const sum = odds.reduce((left, odd, level) => (level === MISSING ? left : left + odd), 0);
          const scaled = odds.map((odd, level) => (level === MISSING ? 0 : odd / sum));
          return isOne(one.name) ? keepName(scaled, kinds[field] as Kind) : scaled;
        }),
      };
    });
    for (const one of classes) if (!isOne(one.name)) capNamesakes(one, kinds, namesakes / total);
    if (Math.abs(likelihood - before) < CLOSE * Math.abs(likelihood)) break;
    before = likelihood;
  }
  return { kinds, classes, rounds: round };
}

/** Two people share both names no more often than the names are common: what is beyond that is one person twice. */
function capNamesakes(one: PairClass, kinds: readonly Kind[], most: number): void {
  const given = one.odds[kinds.indexOf('given')];
  const family = one.odds[kinds.indexOf('family')];
  if (!given || !family) return;
  const both = one.share * (given[AGREES] as number) * (family[AGREES] as number);
  if (both <= most) return;
  const kept = (given[AGREES] as number) * (most / both);
  given[DIFFERENT_NAME] = (given[DIFFERENT_NAME] as number) + (given[AGREES] as number) - kept;
  given[AGREES] = kept;
}

/**
 * A person keeps the given name, and nearly always the family name: however often other things are shared under another
 * name, that is not one person. Common practice.
 */
function keepName(odds: Float64Array, kind: Kind): Float64Array {
  const most = MOST_CHANGED[kind];
  const differs = odds[DIFFERENT_NAME] as number;
  if (most === undefined || differs <= most) return odds;
  return odds.map((odd, level) => (level === DIFFERENT_NAME ? most : (odd * (1 - most)) / (1 - differs)));
}

/** How likely the levels from `at` on are in a class; what is missing says nothing. */
export function likelihoodOf(one: PairClass, levels: Uint8Array, at: number, fields: number): number {
  let product = 1;
  for (let field = 0; field < fields; field++) {
    const level = levels[at + field] as number;
    if (level !== MISSING) product *= (one.odds[field] as Float64Array)[level] as number;
  }
  return product;
}
