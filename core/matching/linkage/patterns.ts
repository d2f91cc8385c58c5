import { Comparer } from './compare';
import type { Features } from './features';
import type { Patterns } from './mixture';

/** Every pair compared: which pattern each shows, and how often each pattern was seen. */
export interface Compared {
  /** For each pair the number of its pattern. */
  shown: Uint32Array;
  patterns: Patterns;
}

const FIRST = 1024;

/** Compares pairs given as `lower × rows + higher`. */
export function compareAll(features: Features, pairs: Float64Array): Compared {
  const fields = features.fields.length;
  const out = new Uint8Array(fields);
  const comparer = new Comparer(features);
  const numbers = new Map<number, number>();
  let levels = new Uint8Array(FIRST * fields);
  let counts = new Float64Array(FIRST);
  let size = 0;
  const shown = new Uint32Array(pairs.length);
  for (let index = 0; index < pairs.length; index++) {
    const code = pairs[index] as number;
    const a = Math.floor(code / features.rows);
    comparer.compare(a, code - a * features.rows, out);
    let key = 0;
    for (let field = 0; field < fields; field++) key = key * 8 + (out[field] as number);
    let pattern = numbers.get(key);
    if (pattern === undefined) {
      pattern = size++;
      numbers.set(key, pattern);
      if (size > counts.length) {
        const [moreLevels, moreCounts] = [
          new Uint8Array(levels.length * 2),
          new Float64Array(counts.length * 2),
        ];
        moreLevels.set(levels);
        moreCounts.set(counts);
        [levels, counts] = [moreLevels, moreCounts];
      }
      levels.set(out, pattern * fields);
    }
    counts[pattern] = (counts[pattern] as number) + 1;
    shown[index] = pattern;
  }
  return { shown, patterns: { levels, counts, size } };
}

/** The patterns of several parts as one, and for each part what its pattern numbers are in the whole. */
export function mergePatterns(
  parts: readonly Patterns[],
  fields: number,
): { whole: Patterns; renumbered: Uint32Array[] } {
  const numbers = new Map<number, number>();
  const most = parts.reduce((sum, one) => sum + one.size, 0);
  const whole: Patterns = { levels: new Uint8Array(most * fields), counts: new Float64Array(most), size: 0 };
  const renumbered = parts.map((part) => {
    const into = new Uint32Array(part.size);
    for (let pattern = 0; pattern < part.size; pattern++) {
      const levels = part.levels.subarray(pattern * fields, (pattern + 1) * fields);
      let key = 0;
      for (const level of levels) key = key * 8 + level;
      let number = numbers.get(key);
      if (number === undefined) {
        number = whole.size++;
        numbers.set(key, number);
        whole.levels.set(levels, number * fields);
      }
      whole.counts[number] = (whole.counts[number] as number) + (part.counts[pattern] as number);
      into[pattern] = number;
    }
    return into;
  });
  return { whole, renumbered };
}
