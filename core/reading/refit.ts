/** A claim that a person decided about: what the reader gave it, and whether it was right. */
export interface Decided {
  confidence: number;
  isRight: boolean;
}
/** From each confidence of the reader on, the share of such claims that was right; rising. */
export type Steps = readonly (readonly [from: number, share: number])[];

/** Fewer decisions than these say nothing. */
const FEWEST = 20;
/** How many decisions the reader's own confidence is worth in each bin. */
const PRIOR = 10;
const BINS = 20;
const binOf = (confidence: number): number => Math.min(BINS - 1, Math.floor(confidence * BINS));
const rounded = (share: number): number => Math.round(share * 1000) / 1000;

interface Pool {
  from: number;
  /** Decisions and what they are worth together, with the reader's own word among them. */
  weight: number;
  right: number;
}

/**
 * Fits confidences to what people decided: isotonic regression by pooling adjacent violators (Ayer et al., Annals of Mathematical
 * Statistics 26, 1955; for classifiers Zadrozny & Elkan, KDD 2002), over bins of a twentieth, in each of which what the reader said
 * counts as ten decisions, so that a handful of refusals does not turn everything over.
 * @returns the steps; none where too little was decided, and then the reader's own confidence holds
 */
export function refit(decided: readonly Decided[]): Steps {
  if (decided.length < FEWEST) return [];
  const pools: Pool[] = [];
  for (let bin = 0; bin < BINS; bin++) {
    const within = decided.filter(({ confidence }) => binOf(confidence) === bin);
    if (!within.length) continue;
    const said = within.reduce((sum, { confidence }) => sum + confidence, 0) / within.length;
    pools.push({
      from: bin / BINS,
      weight: within.length + PRIOR,
      right: within.filter(({ isRight }) => isRight).length + PRIOR * said,
    });
    // What is given more must not be right less often: bins that fall are one.
    for (;;) {
      const [before, last] = pools.slice(-2);
      if (!before || !last || before.right / before.weight <= last.right / last.weight) break;
      pools.splice(-2, 2, {
        from: before.from,
        weight: before.weight + last.weight,
        right: before.right + last.right,
      });
    }
  }
  return pools.map(({ from, weight, right }) => [from, rounded(right / weight)]);
}

/** A confidence of the reader as the share that was right; unchanged below the first step, and where there are none. */
export const refitted = (steps: Steps, confidence: number): number =>
  steps.findLast(([from]) => confidence >= from)?.[1] ?? confidence;

/** How many claims of a confidence were right, of how many. */
export interface Bin {
  from: number;
  right: number;
  decided: number;
}

/** Claims counted by tenths of the confidence they were shown with; only tenths in which there are some. */
export function binned(decided: readonly Decided[]): Bin[] {
  const bins = new Map<number, Bin>();
  for (const { confidence, isRight } of decided) {
    const from = Math.min(9, Math.floor(confidence * 10 + 1e-9)) / 10;
    const bin = bins.get(from) ?? { from, right: 0, decided: 0 };
    bins.set(from, { from, right: bin.right + Number(isRight), decided: bin.decided + 1 });
  }
  return [...bins.values()].sort((a, b) => a.from - b.from);
}
