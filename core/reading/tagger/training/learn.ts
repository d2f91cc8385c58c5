import { bestTags, mayFollow, scoresOf, stepLikelihood, sumsOf, TAG_COUNT, type Weights } from '../model';

/** A note as the model sees it: the features of its words, and the right tag for each. */
export interface Example {
  features: string[][];
  tags: number[];
}

export interface Learning {
  passes: number;
  /** How far a weight moves at first; it moves less the more often it has moved (AdaGrad: Duchi, Hazan & Singer, JMLR 12, 2011). */
  rate: number;
  /** How strongly weights are held near nought (L2). */
  hold: number;
  random: () => number;
}

interface Slot {
  weights: Float64Array;
  moved: Float64Array;
}
const slot = (size: number): Slot => ({ weights: new Float64Array(size), moved: new Float64Array(size) });

/** Trains a conditional random field by stochastic gradient descent on the likelihood of the right tags. */
export function learn(examples: readonly Example[], { passes, rate, hold, random }: Learning): Weights {
  const features = new Map<string, Slot>();
  const steps = slot((TAG_COUNT + 1) * TAG_COUNT);
  const weights: Weights = { features: new Map(), steps: steps.weights };
  const shown = weights.features as Map<string, Float64Array>;
  const slotOf = (name: string): Slot => {
    let own = features.get(name);
    if (!own) {
      own = slot(TAG_COUNT);
      features.set(name, own);
      shown.set(name, own.weights);
    }
    return own;
  };
  const move = ({ weights: values, moved }: Slot, at: number, gradient: number): void => {
    const held = gradient - hold * (values[at] ?? 0);
    moved[at] = (moved[at] ?? 0) + held * held;
    values[at] = (values[at] ?? 0) + (rate * held) / (1e-6 + Math.sqrt(moved[at] ?? 0));
  };
  const order = examples.map((_, at) => at);
  for (let pass = 0; pass < passes; pass++) {
    for (let at = order.length - 1; at > 0; at--) {
      const other = Math.floor(random() * (at + 1));
      [order[at], order[other]] = [order[other] ?? 0, order[at] ?? 0];
    }
    for (const index of order) {
      const example = examples[index];
      if (!example?.tags.length) continue;
      const scores = scoresOf(example.features, weights);
      const sums = sumsOf(scores, weights);
      const stepGradients = new Float64Array(steps.weights.length);
      example.features.forEach((names, at) => {
        const right = example.tags[at] ?? 0;
        const before = at === 0 ? TAG_COUNT : (example.tags[at - 1] ?? 0);
        const expected = new Float64Array(TAG_COUNT);
        for (let from = 0; from < (at === 0 ? 1 : TAG_COUNT); from++)
          for (let tag = 0; tag < TAG_COUNT; tag++) {
            if (!mayFollow(at === 0 ? 0 : from, tag)) continue;
            const likelihood = stepLikelihood(scores, weights, sums, at, from, tag);
            expected[tag] = (expected[tag] ?? 0) + likelihood;
            const step = (at === 0 ? TAG_COUNT : from) * TAG_COUNT + tag;
            stepGradients[step] = (stepGradients[step] ?? 0) - likelihood;
          }
        const own = before * TAG_COUNT + right;
        stepGradients[own] = (stepGradients[own] ?? 0) + 1;
        for (const name of names) {
          const values = slotOf(name);
          for (let tag = 0; tag < TAG_COUNT; tag++) {
            const gradient = (tag === right ? 1 : 0) - (expected[tag] ?? 0);
            if (Math.abs(gradient) > 1e-3) move(values, tag, gradient);
          }
        }
      });
      stepGradients.forEach((gradient, at) => {
        if (gradient !== 0) move(steps, at, gradient);
      });
    }
  }
  return weights;
}

/** The share of examples in which every word has the right tag. */
export const wholeRight = (examples: readonly Example[], weights: Weights): number =>
  examples.filter(
    ({ features, tags }) => bestTags(scoresOf(features, weights), weights).join() === tags.join(),
  ).length / Math.max(1, examples.length);
