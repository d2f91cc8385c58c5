import { matchesOf } from '../matches';
import type { Line } from '../email/layers';

export interface Sentence {
  text: string;
  start: number;
  /** Offset in the body of a position in `text`. */
  at(position: number): number;
}

const MOST = 200;
const LONGEST = 600;
/** "2. Dezember" and "2. de enero": an ordinal before a month ends no sentence. */
const MONTH =
  '(?:de\\s)?(?:jan|feb|mär|maer|mar|apr|abr|avr|mai|may|maj|mei|mag|jun|jui|giu|jul|lug|aug|ago|aoû|sep|set|okt|oct|out|ott|nov|dez|dec|déc|dic)';
const ABBREVIATED =
  'Mr|Mrs|Ms|Dr|St|No|Nr|approx|ca|bzw|z\\.B|e\\.g|i\\.e|resp|Tel|inkl|excl|incl|max|min|Sr|Sra|kl|Tsd|Mio';
const END = new RegExp(
  `(?:(?<!\\d)[.!?…]{1,8}|(?<=\\d)[!?…]{1,8}|(?<=\\d)\\.(?!\\s${MONTH}))(?=["')\\]]{0,4}(?:\\s|$))(?<!\\b(?:${ABBREVIATED})\\.)|\\n[^\\S\\n]*\\n|\\n(?=[^\\S\\n]*[-*•]\\s)`,
  'giu',
);

/** Splits what a sender says into sentences that know where in the body they stand. At most 200 are looked at, in the first 24,000 characters. */
export function toSentences(lines: readonly Line[]): Sentence[] {
  const starts: number[] = [];
  let joined = '';
  for (const line of lines) {
    if (joined.length > 24_000) break;
    starts.push(joined.length);
    joined += `${line.text}\n`;
  }
  const place = (offset: number): number => {
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((starts[middle] ?? 0) <= offset) low = middle;
      else high = middle - 1;
    }
    return (lines[low]?.start ?? 0) + offset - (starts[low] ?? 0);
  };
  const sentences: Sentence[] = [];
  let from = 0;
  const push = (until: number): void => {
    const raw = joined.slice(from, until);
    const lead = /^[\s>*•-]*/.exec(raw)?.[0].length ?? 0;
    const text = raw.slice(lead).trimEnd().slice(0, LONGEST);
    const start = from + lead;
    if (text) sentences.push({ text, start: place(start), at: (position) => place(start + position) });
  };
  for (const match of matchesOf(END, joined)) {
    if (sentences.length >= MOST) return sentences;
    push(match.index + match[0].trimEnd().length);
    from = match.index + match[0].length;
  }
  push(joined.length);
  return sentences;
}
