import type { Features } from './features';
import { compete } from './compete';
import { settlePairs, type Edge } from './groups';
import { probabilityOf } from './learn';
import { rateOf, Scorer, shippedModel, USUAL_RATE, type Model } from './model';

/** Pairs less likely than this, in natural logarithms of odds, are not worth a look. */
const FLOOR = -6;

/**
 * The pairs that may be of one person, with their odds at the usual rate of doubles.
 * @param pairs `lower × rows + higher`
 */
export function likelyEdges(features: Features, pairs: Float64Array, model: Model = shippedModel()): Edge[] {
  const scorer = new Scorer(features, model);
  const edges: Edge[] = [];
  for (const code of pairs) {
    const a = Math.floor(code / features.rows);
    const b = code - a * features.rows;
    const logOdds = scorer.logOdds(a, b, FLOOR);
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

/** Edges as they are in this table: by how many doubles it has, and weighed against each other; with the odds of any two rows. */
export function weighed(
  features: Features,
  edges: readonly Edge[],
  model: Model = shippedModel(),
): { edges: Edge[]; logOdds: (a: number, b: number) => number } {
  const rate = rateOf(
    edges.map((edge) => edge.logOdds),
    features.rows,
  );
  const scorer = new Scorer(features, model, rate);
  const logOdds = (a: number, b: number): number => scorer.logOdds(a, b);
  const shift = Math.log(rate / USUAL_RATE);
  const shifted = edges.map((edge) => ({ ...edge, logOdds: edge.logOdds + shift }));
  return { edges: compete(shifted, (a, b) => scorer.contradiction(a, b)), logOdds };
}

/** Edges as pairs with probabilities, settled by the groups they make, surest first. */
export function linkedPairs(features: Features, found: readonly Edge[]): LinkedPair[] {
  const { edges, logOdds } = weighed(features, found);
  return settlePairs(edges, logOdds)
    .map(({ a, b, logOdds: odds }) => ({ a, b, probability: probabilityOf(odds) }))
    .sort((x, y) => y.probability - x.probability || x.a - y.a || x.b - y.b);
}
