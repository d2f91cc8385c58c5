import { compareCompanyFacts, comparePeople, type CompanyFacts, type PersonFacts } from './evidence';
import { companyPairs } from './companyPairs';
import { candidatePairs } from './linkage/blocks';
import { Comparer } from './linkage/compare';
import { expectedNamesakes, FeatureBuilder, type Features } from './linkage/features';
import { groupUp, settlePairs, type Edge } from './linkage/groups';
import { likelyEdges } from './linkage/link';
import { estimate, type Patterns } from './linkage/mixture';
import { compareAll } from './linkage/patterns';
import type { Kind, Plan } from './linkage/plan';
import { probabilityOf, Scorer } from './linkage/score';
import { scalesOf } from './verdict';
import { weightsFrom, type Chance, type Weights } from './weights';

/** How a book is laid out as a table, a row a record. */
const field = (kind: Kind, name: string, ...columns: number[]): Plan['fields'][number] => ({
  kind,
  name,
  columns,
});
export const PERSON_PLAN: Plan = {
  idColumn: null,
  fields: [
    field('given', 'given name', 0),
    field('family', 'family name', 1),
    field('email', 'address', 2, 3),
    field('phone', 'number', 4, 5),
    field('company', 'company', 6),
    field('title', 'job title', 7),
    field('street', 'postal address', 8),
    field('date', 'birthday', 9),
  ],
};
/** A group of rows that are likely one record. */
export interface FoundGroup {
  rows: number[];
  /** 0 to 1, of the least likely pair in it. */
  probability: number;
}

/** Pairs of rows as `lower × rows + higher`. */
export type PairSet = ReadonlySet<number>;
const codeOf = (a: number, b: number, rows: number): number => (a < b ? a * rows + b : b * rows + a);

/** Beyond any odds: these two were told apart by somebody. */
const TOLD_APART = -1000;

interface Scored {
  edges: Edge[];
  logOdds: (a: number, b: number) => number;
}

/**
 * Gathers scored pairs into groups, never with two rows that somebody told apart.
 * @returns the surest first
 */
export function gather({ edges, logOdds }: Scored, rows: number, apart: PairSet): FoundGroup[] {
  const isApart = (a: number, b: number): boolean => apart.has(codeOf(a, b, rows));
  const odds = (a: number, b: number): number => (isApart(a, b) ? TOLD_APART : logOdds(a, b));
  const likely = edges.filter((edge) => edge.logOdds >= 0 && !isApart(edge.a, edge.b));
  const groups = new Set(groupUp(likely, odds).values());
  const least = new Map<number[], number>();
  const of = new Map<number, number[]>();
  for (const group of groups) {
    // Of two who were told apart the one that less speaks for leaves the group.
    for (let left = group.length; left > 1; left--) {
      const pair = group
        .flatMap((a, at) => group.slice(at + 1).map((b) => [a, b] as const))
        .find(([a, b]) => isApart(a, b));
      if (!pair) break;
      const support = (row: number): number =>
        group.reduce(
          (sum, other) =>
            other === row || isApart(row, other)
              ? sum
              : sum + logOdds(Math.min(row, other), Math.max(row, other)),
          0,
        );
      group.splice(group.indexOf(support(pair[0]) < support(pair[1]) ? pair[0] : pair[1]), 1);
    }
    for (const row of group) of.set(row, group);
  }
  for (const { a, b, logOdds: settled } of settlePairs(likely, odds)) {
    const group = of.get(a);
    if (group && group === of.get(b)) least.set(group, Math.min(least.get(group) ?? Infinity, settled));
  }
  return [...groups]
    .filter((group) => group.length > 1)
    .map((group) => ({
      rows: [...group].sort((a, b) => a - b),
      probability: probabilityOf(least.get(group) ?? 0),
    }))
    .filter((group) => group.probability >= 0.5)
    .sort((x, y) => y.probability - x.probability || (x.rows[0] ?? 0) - (y.rows[0] ?? 0));
}

const SAMPLED = 30_000;
/** A step that meets every row before it meets one again, whatever the number of rows. */
const STEP = 7_919;

/** How often two rows picked at random come to each level: exactly for equal values, by a sample for the others. */
export function chanceOf(features: Features): Chance {
  const { rows, fields } = features;
  const sums = fields.map(() => new Float64Array(8));
  const levels = new Uint8Array(fields.length);
  const comparer = new Comparer(features);
  const times = Math.min(SAMPLED, (rows * (rows - 1)) / 2);
  for (let at = 0; at < times; at++) {
    const a = at % rows;
    const b = (a + 1 + ((at * STEP) % Math.max(1, rows - 1))) % rows;
    if (a === b) continue;
    comparer.compare(Math.min(a, b), Math.max(a, b), levels);
    for (const [index, sum] of sums.entries())
      sum[levels[index] as number] = (sum[levels[index] as number] as number) + 1;
  }
  return (kind, level) => {
    const index = fields.findIndex((field) => field.kind === kind);
    const sum = sums[index];
    if (!sum) return 0;
    const said = sum.reduce((left, count, at) => (at ? left + count : left), 0);
    if (level !== 1) return said ? ((sum[level] ?? 0) + 0.5) / (said + 1) : 0;
    const counts = fields[index]?.counts ?? new Uint32Array();
    let [pairs, all] = [0, 0];
    for (let id = 1; id < counts.length; id++) {
      const count = counts[id] as number;
      pairs += count * (count - 1);
      all += count;
    }
    return all > 1 ? (pairs + 1) / (all * (all - 1) + 1) : 0;
  };
}

/** Judged pairs as patterns: two rows of a table a pair, one after the other. */
export function patternsOf(
  pairs: readonly (readonly [readonly string[], readonly string[]])[],
  plan: Plan,
): Patterns {
  const builder = new FeatureBuilder(plan);
  for (const [one, other] of pairs) {
    builder.add(one);
    builder.add(other);
  }
  const features = builder.finish();
  const codes = Float64Array.from(pairs, (_, at) => 2 * at * features.rows + 2 * at + 1);
  return compareAll(features, codes).patterns;
}

export interface PeopleFound {
  groups: FoundGroup[];
  /** What was learnt of this book; null where it is too small to learn from. */
  weights: Weights | null;
}

/** A book with fewer people tells nothing about itself that judgement does not know better. */
const ENOUGH = 2000;
const MOST_LOUD = 60;

/**
 * People who are in the book more than once. In a book of some size the weights are learnt from it by EM, with judged
 * pairs for what they are; in a small one the verdict's own weights serve.
 * @param facts of each row, asked for in a small book
 */
export function findPeople(
  features: Features,
  facts: readonly PersonFacts[],
  judged: { same: Patterns; different: Patterns } | null,
  apart: PairSet,
): PeopleFound {
  const pairs = candidatePairs(features);
  if (features.rows < ENOUGH) {
    const { scales, prior } = scalesOf({ records: features.rows });
    const score = (a: number, b: number): number => {
      const [one, other] = [facts[a], facts[b]];
      if (!one || !other) return TOLD_APART;
      return (
        Math.LN2 * (prior + comparePeople(one, other, scales).reduce((sum, reason) => sum + reason.bits, 0))
      );
    };
    return { groups: gather(scoredBy(features.rows, pairs, score), features.rows, apart), weights: null };
  }
  const compared = compareAll(features, pairs);
  const kinds = features.fields.map((field) => field.kind);
  const model = estimate(kinds, compared.patterns, {
    namesakes: expectedNamesakes(features),
    labelled: judged,
  });
  const scorer = new Scorer(features, model);
  const edges = likelyEdges(features, model, pairs, compared);
  return {
    groups: gather({ edges, logOdds: (a, b) => scorer.logOdds(a, b) }, features.rows, apart),
    weights: weightsFrom(model, features.rows, pairs.length, chanceOf(features)),
  };
}

function scoredBy(rows: number, pairs: Iterable<number>, score: (a: number, b: number) => number): Scored {
  const edges: Edge[] = [];
  for (const code of pairs) {
    const a = Math.floor(code / rows);
    const b = code - a * rows;
    const logOdds = Math.min(MOST_LOUD, score(a, b));
    if (logOdds >= 0) edges.push({ a, b, logOdds });
  }
  return { edges, logOdds: score };
}

/** Companies that are in the book more than once. Branches are not: they have the name of the whole and a word more. */
export function findCompanies(facts: readonly CompanyFacts[], apart: PairSet): FoundGroup[] {
  const records = facts.length;
  const { prior } = scalesOf({ records });
  const score = (a: number, b: number): number => {
    const [one, other] = [facts[a], facts[b]];
    if (!one || !other) return TOLD_APART;
    const reasons = compareCompanyFacts(one, other, { records });
    return Math.LN2 * (prior + reasons.reduce((sum, reason) => sum + reason.bits, 0));
  };
  return gather(scoredBy(records, companyPairs(facts), score), records, apart);
}
