import type { Features } from './features';
import { settlePairs, type Edge } from './groups';
import type { Model } from './mixture';
import type { Compared } from './patterns';
import { probabilityOf, Scorer } from './score';

/** Pairs less likely than this are not worth a look. */
const LEAST_LIKELY = 0.02;
/** The natural logarithm of the odds of that. */
const FLOOR = Math.log(LEAST_LIKELY / (1 - LEAST_LIKELY));
/** A shared value counts at most so much more for being rare (natural logarithm of 64), in each field. */
const RARE = Math.log(64);

/**
 * The pairs that may be of one person, with their odds.
 * @param pairs `lower × rows + higher`
 * @param compared the same pairs compared, with the numbers of their patterns in `patterns`
 */
export function likelyEdges(
  features: Features,
  model: Model,
  pairs: Float64Array,
  { shown, patterns }: Compared,
): Edge[] {
  const scorer = new Scorer(features, model);
  const fields = features.fields.length;
  const hopeless = new Uint8Array(patterns.size);
  for (let pattern = 0; pattern < patterns.size; pattern++) {
    let agreements = 0;
    for (let field = 0; field < fields; field++)
      if (patterns.levels[pattern * fields + field] === 1) agreements++;
    const usual = scorer.usualOdds(patterns.levels, pattern * fields);
    hopeless[pattern] = usual + agreements * RARE < FLOOR ? 1 : 0;
  }
  const edges: Edge[] = [];
  for (let index = 0; index < pairs.length; index++) {
    const pattern = shown[index] as number;
    if (hopeless[pattern]) continue;
    const code = pairs[index] as number;
    const a = Math.floor(code / features.rows);
    const b = code - a * features.rows;
    const logOdds = scorer.fromLevels(patterns.levels, pattern * fields, a, b);
    if (logOdds >= FLOOR) edges.push({ a, b, logOdds });
  }
  return edges;
}

export interface LinkedPair {
  /** Row numbers, the lower first. */
  a: number;
  b: number;
  /** 0 to 1. */
  probability: number;
}

/** Edges as pairs with probabilities, settled by the groups they make, surest first. */
export function linkedPairs(features: Features, model: Model, edges: readonly Edge[]): LinkedPair[] {
  const scorer = new Scorer(features, model);
  return settlePairs(edges, (a, b) => scorer.logOdds(a, b))
    .map(({ a, b, logOdds }) => ({ a, b, probability: probabilityOf(logOdds) }))
    .sort((x, y) => y.probability - x.probability || x.a - y.a || x.b - y.b);
}
