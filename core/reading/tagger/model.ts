/** What a word can be: outside of anything, or the first or a further word of a name, a firm or a title. */
export const TAGS = ['O', 'N', 'n', 'F', 'f', 'T', 't'] as const;
export const TAG_COUNT = TAGS.length;

/** The weights of a linear-chain conditional random field (Lafferty, McCallum & Pereira, ICML 2001). */
export interface Weights {
  /** By feature, one weight for each tag. */
  features: ReadonlyMap<string, ArrayLike<number>>;
  /** By tag and next tag; the last row is that of the beginning. */
  steps: ArrayLike<number>;
}

/** A further word follows only a word of the same thing. */
export const mayFollow = (before: number, tag: number): boolean =>
  tag === 0 || tag % 2 === 1 || before === tag || before === tag - 1;

const NEVER = -1e9;

/** The score of each tag for each word, by its features alone. */
export function scoresOf(features: readonly (readonly string[])[], weights: Weights): Float64Array[] {
  return features.map((names) => {
    const scores = new Float64Array(TAG_COUNT);
    for (const name of names) {
      const own = weights.features.get(name);
      if (own) for (let tag = 0; tag < TAG_COUNT; tag++) scores[tag] = (scores[tag] ?? 0) + (own[tag] ?? 0);
    }
    return scores;
  });
}

const stepOf = (weights: Weights, before: number, tag: number): number =>
  mayFollow(before === TAG_COUNT ? 0 : before, tag) ? (weights.steps[before * TAG_COUNT + tag] ?? 0) : NEVER;

const logSum = (values: readonly number[]): number => {
  const most = Math.max(...values);
  return most <= NEVER ? NEVER : most + Math.log(values.reduce((sum, one) => sum + Math.exp(one - most), 0));
};

const ALL = TAGS.map((_, tag) => tag);

/** Sums over all ways to tag that end, or begin, with each tag at each word (the forward–backward algorithm). */
export function sumsOf(
  scores: readonly Float64Array[],
  weights: Weights,
): { ahead: number[][]; behind: number[][]; all: number } {
  const count = scores.length;
  const ahead: number[][] = [];
  for (let at = 0; at < count; at++)
    ahead.push(
      ALL.map((tag) => {
        const own = scores[at]?.[tag] ?? 0;
        if (at === 0) return own + stepOf(weights, TAG_COUNT, tag);
        return (
          own + logSum(ALL.map((before) => (ahead[at - 1]?.[before] ?? NEVER) + stepOf(weights, before, tag)))
        );
      }),
    );
  const behind: number[][] = Array.from({ length: count }, () => ALL.map(() => 0));
  for (let at = count - 2; at >= 0; at--)
    behind[at] = ALL.map((tag) =>
      logSum(
        ALL.map(
          (next) =>
            stepOf(weights, tag, next) + (scores[at + 1]?.[next] ?? 0) + (behind[at + 1]?.[next] ?? 0),
        ),
      ),
    );
  return { ahead, behind, all: count ? logSum(ahead[count - 1] ?? []) : 0 };
}

/** How likely a step from one tag to the next is, before the word at `at`, over all ways to tag. */
export const stepLikelihood = (
  scores: readonly Float64Array[],
  weights: Weights,
  { ahead, behind, all }: ReturnType<typeof sumsOf>,
  at: number,
  before: number,
  tag: number,
): number =>
  Math.exp(
    (at === 0 ? 0 : (ahead[at - 1]?.[before] ?? NEVER)) +
      stepOf(weights, at === 0 ? TAG_COUNT : before, tag) +
      (scores[at]?.[tag] ?? 0) +
      (behind[at]?.[tag] ?? 0) -
      all,
  );

/** The likeliest way to tag (the Viterbi algorithm). */
export function bestTags(scores: readonly Float64Array[], weights: Weights): number[] {
  const best: number[][] = [];
  const from: number[][] = [];
  for (let at = 0; at < scores.length; at++) {
    const origins: number[] = [];
    best.push(
      ALL.map((tag) => {
        const own = scores[at]?.[tag] ?? 0;
        if (at === 0) return own + stepOf(weights, TAG_COUNT, tag);
        let [most, origin] = [-Infinity, 0];
        for (const before of ALL) {
          const reached = (best[at - 1]?.[before] ?? NEVER) + stepOf(weights, before, tag);
          if (reached > most) [most, origin] = [reached, before];
        }
        origins[tag] = origin;
        return own + most;
      }),
    );
    from.push(origins);
  }
  const last = best.at(-1) ?? [];
  let tag = last.indexOf(Math.max(...last));
  const tags: number[] = [];
  for (let at = scores.length - 1; at >= 0; at--) {
    tags.unshift(Math.max(0, tag));
    tag = from[at]?.[tag] ?? 0;
  }
  return tags;
}

/** How likely it is that exactly the words from `first` to `last` are one thing. */
export function spanLikelihood(
  scores: readonly Float64Array[],
  weights: Weights,
  sums: ReturnType<typeof sumsOf>,
  first: number,
  last: number,
  kind: number,
): number {
  const further = kind + 1;
  let inside = scores[first]?.[kind] ?? 0;
  for (let at = first + 1; at <= last; at++)
    inside += stepOf(weights, at === first + 1 ? kind : further, further) + (scores[at]?.[further] ?? 0);
  const before =
    first === 0
      ? stepOf(weights, TAG_COUNT, kind)
      : logSum(ALL.map((tag) => (sums.ahead[first - 1]?.[tag] ?? NEVER) + stepOf(weights, tag, kind)));
  const end = first === last ? kind : further;
  const after =
    last === scores.length - 1
      ? 0
      : logSum(
          ALL.filter((tag) => tag !== further).map(
            (tag) =>
              stepOf(weights, end, tag) +
              (scores[last + 1]?.[tag] ?? 0) +
              (sums.behind[last + 1]?.[tag] ?? 0),
          ),
        );
  return Math.exp(before + inside + after - sums.all);
}
