import { probabilityOf, fitted, type Examples } from '@emporikon/core/matching/linkage/learn';
import { FEATURES } from '@emporikon/core/matching/linkage/vector';
import { type Model, type StoredModel, type Trees } from '@emporikon/core/matching/linkage/model';

/** By how much a weight that is far from nothing must pay for itself, and where the intercept starts. */
const PENALTY = 2;
const START = 4;

const BINS = 40;
const TREES = 140;
const DEPTH = 4;
const RATE = 0.12;
const SHRINK = 5;
/** A leaf rests on so much: the sum of chance times one less chance. */
const LEAST = 8;
/** What the sum of weights calls hopeless is looked at once in so many times. */
const HOPELESS = -8;
const SKIPPED = 8;

/** Bounds that part the values of a feature into bins of about as many pairs. */
function boundsOf(vectors: readonly Float64Array[], feature: number): number[] {
  const values = vectors.filter((_, at) => at % 7 === 0).map((vector) => vector[feature] as number);
  values.sort((a, b) => a - b);
  const bounds: number[] = [];
  for (let bin = 1; bin < BINS; bin++) {
    const value = values[Math.floor((bin * values.length) / BINS)] ?? 0;
    if (!bounds.length || value > (bounds.at(-1) as number)) bounds.push(value);
  }
  return bounds;
}

/**
 * Trees that add what a sum of weights cannot say, one after the other, each on what those before it leave (Friedman, "Greedy
 * function approximation: a gradient boosting machine", 2001; leaves by second derivatives as in Chen & Guestrin 2016).
 */
export function learnTrees(all: Examples, linear: Float64Array): Trees {
  const kept: { vector: Float64Array; same: number; odds: number; weight: number }[] = [];
  let skipped = 0;
  for (const [at, vector] of all.vectors.entries()) {
    let odds = (all.before[at] ?? 0) + (linear[FEATURES] as number);
    for (let feature = 0; feature < FEATURES; feature++)
      odds += (linear[feature] as number) * (vector[feature] as number);
    const isHopeless = !all.same[at] && odds < HOPELESS;
    if (isHopeless && skipped++ % SKIPPED) continue;
    kept.push({ vector, same: all.same[at] ?? 0, odds, weight: isHopeless ? SKIPPED : 1 });
  }
  const vectors = kept.map((one) => one.vector);
  const bounds = Array.from({ length: FEATURES }, (_, feature) => boundsOf(vectors, feature));
  const bins = new Uint8Array(kept.length * FEATURES);
  for (const [at, vector] of vectors.entries())
    for (let feature = 0; feature < FEATURES; feature++) {
      const mine = bounds[feature] ?? [];
      let bin = 0;
      while (bin < mine.length && (vector[feature] as number) > (mine[bin] as number)) bin++;
      bins[at * FEATURES + feature] = bin;
    }
  const nodes = 2 ** (DEPTH + 1) - 1;
  const trees: Trees = {
    most: new Float64Array(TREES + 1),
    nodes,
    feature: new Int16Array(nodes * TREES).fill(-1),
    bound: new Float64Array(nodes * TREES),
    value: new Float64Array(nodes * TREES),
  };
  const slopes = new Float64Array(kept.length);
  const bends = new Float64Array(kept.length);
  const node = new Int32Array(kept.length);
  for (let tree = 0; tree < TREES; tree++) {
    for (const [at, one] of kept.entries()) {
      const chance = probabilityOf(one.odds);
      slopes[at] = (one.same - chance) * one.weight;
      bends[at] = chance * (1 - chance) * one.weight;
    }
    node.fill(0);
    for (let depth = 0; depth <= DEPTH; depth++)
      growLevel({ trees, tree, depth, bounds, bins, slopes, bends, node });
    for (const [at, one] of kept.entries())
      one.odds += trees.value[tree * nodes + (node[at] as number)] as number;
  }
  return trees;
}

interface Growing {
  trees: Trees;
  tree: number;
  depth: number;
  bounds: readonly (readonly number[])[];
  bins: Uint8Array;
  slopes: Float64Array;
  bends: Float64Array;
  node: Int32Array;
}

/** Gives the nodes of one depth their values, and parts those whose parts are better. */
function growLevel({ trees, tree, depth, bounds, bins, slopes, bends, node }: Growing): void {
  const first = 2 ** depth - 1;
  const count = 2 ** depth;
  const width = BINS + 1;
  const slope = new Float64Array(count);
  const bend = new Float64Array(count);
  const slopeOf = new Float64Array(count * FEATURES * width);
  const bendOf = new Float64Array(count * FEATURES * width);
  for (let at = 0; at < node.length; at++) {
    const mine = (node[at] as number) - first;
    if (mine < 0) continue;
    const [g, h] = [slopes[at] as number, bends[at] as number];
    slope[mine] = (slope[mine] as number) + g;
    bend[mine] = (bend[mine] as number) + h;
    if (depth === DEPTH || Math.abs(g) < 1e-7) continue;
    for (let feature = 0; feature < FEATURES; feature++) {
      const cell = (mine * FEATURES + feature) * width + (bins[at * FEATURES + feature] as number);
      slopeOf[cell] = (slopeOf[cell] as number) + g;
      bendOf[cell] = (bendOf[cell] as number) + h;
    }
  }
  const gainOf = (g: number, h: number): number => (g * g) / (h + SHRINK);
  for (let mine = 0; mine < count; mine++) {
    const place = tree * trees.nodes + first + mine;
    const [all, whole] = [slope[mine] as number, bend[mine] as number];
    trees.value[place] = (RATE * all) / (whole + SHRINK);
    let best = 1e-3;
    if (depth < DEPTH)
      for (let feature = 0; feature < FEATURES; feature++) {
        let [left, weight] = [0, 0];
        for (const [bin, bound] of (bounds[feature] ?? []).entries()) {
          const cell = (mine * FEATURES + feature) * width + bin;
          left += slopeOf[cell] as number;
          weight += bendOf[cell] as number;
          if (weight < LEAST || whole - weight < LEAST) continue;
          const gain = gainOf(left, weight) + gainOf(all - left, whole - weight) - gainOf(all, whole);
          if (gain <= best) continue;
          best = gain;
          trees.feature[place] = feature;
          trees.bound[place] = bound;
        }
      }
  }
  if (depth < DEPTH)
    for (let at = 0; at < node.length; at++) {
      const mine = node[at] as number;
      if (mine < first) continue;
      const place = tree * trees.nodes + mine;
      const feature = trees.feature[place] as number;
      if (feature < 0) continue;
      const bin = bins[at * FEATURES + feature] as number;
      const isAbove =
        bin >= (bounds[feature] ?? []).length ||
        (bounds[feature]?.[bin] as number) > (trees.bound[place] as number);
      node[at] = isAbove ? 2 * mine + 2 : 2 * mine + 1;
    }
}

/** A model that is learnt from examples. */
export function learn(examples: Examples): Model {
  const start = new Float64Array(FEATURES + 1);
  start[FEATURES] = START;
  const weights = fitted(examples, start, PENALTY);
  return {
    intercept: weights[FEATURES] as number,
    linear: weights.slice(0, FEATURES),
    trees: learnTrees(examples, weights),
  };
}

const round = (value: number): number => Number(value.toPrecision(5));
/** A model as it is kept in a file. */
export function stored({ intercept, linear, trees }: Model): StoredModel {
  const splits: number[] = [];
  const leaves: number[] = [];
  const count = trees.feature.length / trees.nodes;
  const walk = (root: number, at: number): void => {
    const place = root + at;
    const feature = trees.feature[place] as number;
    if (feature < 0) {
      leaves.push(place, round(trees.value[place] as number));
      return;
    }
    splits.push(place, feature, round(trees.bound[place] as number));
    walk(root, 2 * at + 1);
    walk(root, 2 * at + 2);
  };
  for (let tree = 0; tree < count; tree++) walk(tree * trees.nodes, 0);
  return {
    intercept: round(intercept),
    linear: [...linear].map(round),
    nodes: trees.nodes,
    trees: count,
    splits,
    leaves,
  };
}
