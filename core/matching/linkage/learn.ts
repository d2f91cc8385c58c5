import { Matrix, solve } from 'ml-matrix';
import { FEATURES } from './vector';

/** Compared pairs whose truth is known. */
export interface Examples {
  vectors: Float64Array[];
  /** 1 where they are one person. */
  same: number[];
  /** What is known of each besides the weights: natural logarithm of the odds. */
  before: number[];
}

/** The probability of odds given as their natural logarithm. */
export const probabilityOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds));
const ROUNDS = 40;
/** No weight moves further in one step. */
const LONGEST_STEP = 2;
const CLOSE = 1e-3;

/**
 * Weights of a logistic regression by Newton's method (Hosmer & Lemeshow, "Applied Logistic Regression", ch. 1), kept near where
 * they start by a penalty on the squares of what they move.
 * @param start where they start, one weight a feature and the intercept last
 * @param penalty how much it costs; the more, the more examples it takes to move them
 */
export function fitted(
  { vectors, same, before }: Examples,
  start: Float64Array,
  penalty: number,
): Float64Array {
  const size = FEATURES + 1;
  const weights = start.slice();
  for (let round = 0; round < ROUNDS; round++) {
    const curve = Array.from({ length: size }, () => new Float64Array(size));
    const slope = new Float64Array(size);
    for (const [at, vector] of vectors.entries()) {
      const said = [...vector.keys()].filter((feature) => vector[feature]);
      let odds = (before[at] ?? 0) + (weights[FEATURES] ?? 0);
      for (const feature of said) odds += (weights[feature] as number) * (vector[feature] as number);
      const chance = probabilityOf(odds);
      const off = (same[at] ?? 0) - chance;
      const bend = chance * (1 - chance);
      const value = (feature: number): number => (feature === FEATURES ? 1 : (vector[feature] as number));
      for (const one of [...said, FEATURES]) {
        slope[one] = (slope[one] as number) + off * value(one);
        if (bend < 1e-7) continue;
        const row = curve[one] as Float64Array;
        for (const two of [...said, FEATURES])
          row[two] = (row[two] as number) + bend * value(one) * value(two);
      }
    }
    for (let at = 0; at < size; at++) {
      const row = curve[at] as Float64Array;
      row[at] = (row[at] as number) + penalty;
      slope[at] = (slope[at] as number) - penalty * ((weights[at] as number) - (start[at] as number));
    }
    const step = solve(new Matrix(curve.map((row) => [...row])), Matrix.columnVector([...slope])).to1DArray();
    const longest = Math.max(...step.map(Math.abs));
    const share = Math.min(1, LONGEST_STEP / longest);
    for (let at = 0; at < size; at++) weights[at] = (weights[at] as number) + share * (step[at] ?? 0);
    if (longest < CLOSE) break;
  }
  return weights;
}
