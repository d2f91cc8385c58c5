import { LEAST_ROWS, PairComparer } from './pairs';
import { against, AT, FAMILY, FEATURES, GIVEN } from './vector';
import { LEVEL } from './nameLevels';
import type { Features } from './features';
import { fitted, probabilityOf, type Examples } from './learn';
import shipped from './model.json';

/** What was learnt of pairs: a sum of weights, and trees for what the sum cannot say. */
export interface Model {
  intercept: number;
  /** One weight a feature. */
  linear: Float64Array;
  trees: Trees;
}

/**
 * Small trees of decisions, as lists one beside the other. Node `at` of a tree asks whether a feature is above a bound: if so
 * the next node is `2 at + 2`, else `2 at + 1`; a feature of −1 is a leaf, whose value counts.
 */
export interface Trees {
  /** So many nodes a tree. */
  nodes: number;
  feature: Int16Array;
  bound: Float64Array;
  value: Float64Array;
  /** The most that each tree and all after it can add. */
  most: Float64Array;
}

/** A model as it is kept in a file: the nodes of all trees that are there, as `[place, feature, bound]` and `[place, value]`. */
export interface StoredModel {
  intercept: number;
  linear: number[];
  nodes: number;
  trees: number;
  splits: number[];
  leaves: number[];
}

export function modelFrom({ intercept, linear, nodes, trees, splits, leaves }: StoredModel): Model {
  const most = new Float64Array(trees + 1);
  const made: Trees = {
    most,
    nodes,
    feature: new Int16Array(nodes * trees).fill(-1),
    bound: new Float64Array(nodes * trees),
    value: new Float64Array(nodes * trees),
  };
  for (let at = 0; at < splits.length; at += 3) {
    made.feature[splits[at] as number] = splits[at + 1] as number;
    made.bound[splits[at] as number] = splits[at + 2] as number;
  }
  for (let at = 0; at < leaves.length; at += 2) made.value[leaves[at] as number] = leaves[at + 1] as number;
  for (let tree = trees - 1; tree >= 0; tree--) {
    const [from, to] = [tree * nodes, (tree + 1) * nodes];
    most[tree] = (most[tree + 1] as number) + Math.max(...made.value.subarray(from, to));
  }
  return { intercept, linear: Float64Array.from(linear), trees: made };
}

let read: Model | null = null;
/** The model that was trained on crowds of our own making (`npm run train`). */
export const shippedModel = (): Model => (read ??= modelFrom(shipped));

/**
 * What the trees add for one pair.
 * @param least once they cannot come to so much any more, they are not asked further, and −∞ is the answer
 */
export function grown(
  { nodes, feature, bound, value, most }: Trees,
  vector: Float64Array,
  least = -Infinity,
): number {
  let sum = 0;
  for (let root = 0, tree = 0; root < feature.length; root += nodes, tree++) {
    if (sum + (most[tree] as number) < least) return -Infinity;
    let at = 0;
    for (let asked = feature[root] as number; asked >= 0; asked = feature[root + at] as number)
      at = (vector[asked] as number) > (bound[root + at] as number) ? 2 * at + 2 : 2 * at + 1;
    sum += value[root + at] as number;
  }
  return sum;
}

/** So many pairs of one person a row has in a book that nothing is known of. */
export const USUAL_RATE = 0.3;

/** How much it takes to move a weight: answers are few, and only pairs that were hard were asked about. */
const HOLDING = 12;

/** The model as the answers of this house have it: its weights moved as far as the answers ask, and no further. */
export function taught(model: Model, { vectors, same, before }: Examples): Model {
  if (!vectors.length) return model;
  const start = new Float64Array([...model.linear, model.intercept]);
  const known = vectors.map((vector, at) => (before[at] ?? 0) + grown(model.trees, vector));
  const weights = fitted({ vectors, same, before: known }, start, HOLDING);
  return { ...model, linear: weights.slice(0, FEATURES), intercept: weights[FEATURES] as number };
}

/** What is known of any two rows of a table before they are compared, as the natural logarithm of the odds. */
export const beforeOf = (rows: number, rate = USUAL_RATE): number =>
  Math.log(rate) - Math.log(Math.max(LEAST_ROWS, rows));

/** Names come together more often than chance has it, in natural logarithms: the same people give both. */
const TOGETHER = 2.9;

/** Scores pairs of rows of one table. */
export class Scorer {
  private readonly comparer: PairComparer;
  private readonly vector = new Float64Array(FEATURES);
  private readonly base: number;
  private readonly logRate: number;

  /** @param rate how many pairs of one person there are for each row */
  constructor(
    features: Features,
    private readonly model: Model,
    rate = USUAL_RATE,
  ) {
    this.comparer = new PairComparer(features);
    this.base = model.intercept + beforeOf(features.rows, rate);
    this.logRate = Math.log(rate);
  }

  /**
   * The natural logarithm of the odds that two rows are of one person.
   * @param floor what is less may be given as −∞
   */
  logOdds(a: number, b: number, floor = -Infinity): number {
    const { model, vector } = this;
    this.comparer.compare(a, b, vector);
    let sum = this.base;
    for (let at = 0; at < FEATURES; at++) sum += (model.linear[at] as number) * (vector[at] as number);
    return Math.max(sum + grown(model.trees, vector, floor - sum), this.byNameAlone());
  }

  /**
   * What the compared pair is by its name alone, where nothing else is known of both: the doubles of a row against its expected
   * namesakes. The crowds to learn from have few such pairs, and what was learnt of others says too little of them.
   */
  private byNameAlone(): number {
    const { vector } = this;
    if (!vector[AT.onlyAName] || !vector[AT.wholeNameAgrees] || vector[AT.generationOnOneSide])
      return -Infinity;
    const isWhole = [LEVEL.same, LEVEL.spelling].some((level) => vector[GIVEN + level]);
    const isFamily = [LEVEL.same, LEVEL.spelling].some((level) => vector[FAMILY + level]);
    if (!isWhole || !isFamily) return -Infinity;
    return this.logRate + (vector[AT.rarityWhereBothAgree] as number) - TOGETHER;
  }

  /** How much speaks against two rows in itself, as a natural logarithm of odds; 0 or more. */
  contradiction(a: number, b: number): number {
    this.comparer.compare(a, b, this.vector);
    return against(this.vector);
  }
}

const ROUNDS = 30;
const RATES = { least: 0.002, most: 2 };
/**
 * How many pairs of one person there are for each row, found from the pairs themselves: what they say on the whole when a rate is
 * assumed is the next rate assumed (Saerens, Latinne & Decaestecker, "Adjusting the outputs of a classifier to new a priori
 * probabilities", 2002).
 * @param logOdds of all pairs that are not hopeless, with the usual rate
 */
export function rateOf(logOdds: readonly number[], rows: number): number {
  let rate = USUAL_RATE;
  for (let round = 0; round < ROUNDS; round++) {
    const shift = Math.log(rate / USUAL_RATE);
    const expected = logOdds.reduce((sum, odds) => sum + probabilityOf(odds + shift), 0);
    rate = Math.max(RATES.least, Math.min(RATES.most, expected / rows));
  }
  return rate;
}
