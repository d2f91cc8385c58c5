import { compareCompanyFacts, type CompanyFacts } from './firms';
import { companyPairs } from './companyPairs';
import { candidatePairs } from './linkage/blocks';
import { FeatureBuilder, type Features } from './linkage/features';
import { groupUp, settlePairs, type Edge } from './linkage/groups';
import { probabilityOf, type Examples } from './linkage/learn';
import { likelyEdges, weighed } from './linkage/link';
import { beforeOf, shippedModel, taught } from './linkage/model';
import { PairComparer } from './linkage/pairs';
import { FEATURES } from './linkage/vector';
import type { Kind, Plan } from './linkage/plan';
import { chanceOf, OutcomeCounter } from './outcomes';
import { scalesOf } from './verdict';
import { weightsFrom, type Weights } from './weights';

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
    field('text', 'page', 10),
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

/**
 * What reps answered, as examples to learn from: pairs of rows that are one person, and pairs that are not.
 * @param pairs the two rows of each pair, as they were when it was judged
 */
export function answersOf(
  pairs: readonly { rows: readonly [readonly string[], readonly string[]]; isSame: boolean }[],
  plan: Plan,
): Examples {
  const builder = new FeatureBuilder(plan);
  for (const { rows } of pairs) for (const row of rows) builder.add(row);
  const features = builder.finish();
  const comparer = new PairComparer(features);
  const vectors = pairs.map((_, at) => {
    const vector = new Float64Array(FEATURES);
    comparer.compare(2 * at, 2 * at + 1, vector);
    return vector;
  });
  return {
    vectors,
    same: pairs.map(({ isSame }) => Number(isSame)),
    before: pairs.map(() => beforeOf(features.rows)),
  };
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
 * People who are in the book more than once.
 * @param answers what reps answered so far
 * @param apart pairs that somebody told apart
 */
export function findPeople(features: Features, answers: Examples | null, apart: PairSet): PeopleFound {
  const pairs = candidatePairs(features);
  const model = answers ? taught(shippedModel(), answers) : shippedModel();
  const { edges, logOdds } = weighed(features, likelyEdges(features, pairs, model), model);
  return {
    groups: gather({ edges, logOdds }, features.rows, apart),
    weights: features.rows < ENOUGH ? null : learntFrom(features, edges, answers),
  };
}

/** The weights of the verdict, learnt from the pairs that are one person and from what reps answered. */
function learntFrom(features: Features, edges: readonly Edge[], answers: Examples | null): Weights {
  const counter = new OutcomeCounter();
  const comparer = new PairComparer(features);
  const vector = new Float64Array(FEATURES);
  let doubles = 0;
  for (const { a, b, logOdds } of edges) {
    if (logOdds < 0) continue;
    const probability = probabilityOf(logOdds);
    comparer.compare(a, b, vector);
    counter.add(vector, probability);
    doubles += probability;
  }
  for (const [at, answered] of (answers?.vectors ?? []).entries())
    if (answers?.same[at]) {
      counter.add(answered, 1);
      doubles++;
    }
  return weightsFrom(counter.shares(), chanceOf(features), doubles, features.rows);
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
