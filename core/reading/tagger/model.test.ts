import { bestTags, mayFollow, spanLikelihood, sumsOf, TAG_COUNT, type Weights } from './model';
import { learn, wholeRight, type Example } from './training/learn';

/** A fixed series of numbers between -1 and 1. */
function series(): () => number {
  let state = 7;
  return () => {
    state = (state * 48271) % 2147483647;
    return (state / 2147483647) * 2 - 1;
  };
}

const WORDS = 4;
const next = series();
const weights: Weights = {
  features: new Map(),
  steps: Array.from({ length: (TAG_COUNT + 1) * TAG_COUNT }, () => next() * 2),
};
const scores = Array.from({ length: WORDS }, () =>
  Float64Array.from({ length: TAG_COUNT }, () => next() * 3),
);

/** Every way to tag the words, with its score: the definition of the model, written out. */
function allWays(): { tags: number[]; score: number }[] {
  const ways: { tags: number[]; score: number }[] = [];
  const go = (tags: number[], score: number): void => {
    if (tags.length === WORDS) {
      ways.push({ tags, score });
      return;
    }
    for (let tag = 0; tag < TAG_COUNT; tag++) {
      const before = tags.at(-1) ?? TAG_COUNT;
      if (!mayFollow(tags.at(-1) ?? 0, tag)) continue;
      go(
        [...tags, tag],
        score + (weights.steps[before * TAG_COUNT + tag] ?? 0) + (scores[tags.length]?.[tag] ?? 0),
      );
    }
  };
  go([], 0);
  return ways;
}
const ways = allWays();
const sumOf = (of: typeof ways): number => of.reduce((sum, { score }) => sum + Math.exp(score), 0);

describe('a chain of tags, beside all its ways written out (Lafferty, McCallum & Pereira 2001, section 3)', () => {
  it('is summed over all of them', () => {
    expect(Math.exp(sumsOf(scores, weights).all)).toBeCloseTo(sumOf(ways), 6);
  });
  it('gives the likeliest of them', () => {
    const best = ways.reduce((top, one) => (one.score > top.score ? one : top));
    expect(bestTags(scores, weights)).toEqual(best.tags);
  });
  it('says how likely exactly these words are one thing', () => {
    const sums = sumsOf(scores, weights);
    for (const [first, last, kind] of [
      [0, 0, 1],
      [0, 2, 3],
      [1, 3, 5],
      [3, 3, 3],
    ] as const) {
      const those = ways.filter(
        ({ tags }) =>
          tags[first] === kind &&
          tags.slice(first + 1, last + 1).every((tag) => tag === kind + 1) &&
          tags[last + 1] !== kind + 1,
      );
      expect(spanLikelihood(scores, weights, sums, first, last, kind)).toBeCloseTo(
        sumOf(those) / sumOf(ways),
        6,
      );
    }
  });
  it('has a further word only behind a word of the same thing', () => {
    expect([mayFollow(0, 2), mayFollow(1, 2), mayFollow(2, 2), mayFollow(3, 2), mayFollow(2, 1)]).toEqual([
      false,
      true,
      true,
      false,
      true,
    ]);
  });
});

describe('learning', () => {
  const of = (text: string, tags: number[]): Example => ({
    features: text.split(' ').map((word) => [word]),
    tags,
  });
  const examples = [
    of('spoke ada lovelace of crumb', [0, 1, 2, 0, 3]),
    of('rang ben of sol bakery', [0, 1, 0, 3, 4]),
  ];
  const train = () => learn(examples, { passes: 30, rate: 0.2, hold: 1e-4, random: series() });

  it('gets right what it was shown, and the same from the same series', () => {
    const trained = train();
    expect(wholeRight(examples, trained)).toBe(1);
    expect([...train().features]).toEqual([...trained.features]);
  });
  it('knows nothing before', () => {
    expect(wholeRight(examples, { features: new Map(), steps: [] })).toBe(0);
  });
});
