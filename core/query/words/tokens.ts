/** What was typed as it is read: lower case, without accents, single spaces; and where each letter of that stood. */
export interface Typed {
  flat: string;
  /** For every place in `flat`, the place in the text. */
  places: readonly number[];
}

const TOKEN =
  /\d{4}-\d{2}-\d{2}|\d{1,2}[./]\d{1,2}[./]\d{2,4}|(?:[€$£]\s?)?\d(?:[\d.,]*\d)?\s?(?:st|nd|rd|th|k|m|bn)?\b\+?%?|[\p{L}\p{M}\p{N}]+(?:['’&.-][\p{L}\p{M}\p{N}]+)*['’]?|[,;&€$£]/giu;

const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replace(/[‘’]/g, "'")
    .replace(/ß/g, 'ss')
    .toLowerCase();

export function readTyped(text: string): Typed {
  let flat = '';
  const places: number[] = [];
  for (const match of text.matchAll(TOKEN)) {
    if (flat) {
      flat += ' ';
      places.push(match.index);
    }
    // "US" is a country, "us" is not.
    const word = (match[0] === 'US' ? 'usa' : plain(match[0]))
      .replace(/\s/g, '')
      .replace(/^([€$£])(?=\d)/, '');
    for (let at = 0; at < word.length; at++) places.push(match.index + Math.min(at, match[0].length - 1));
    flat += word;
  }
  return { flat, places };
}

/** A name or value in the form in which it is looked for. */
export const asTyped = (text: string): string => readTyped(text).flat;

const NUMBERS: Record<string, number> = {
  ...{
    a: 1,
    an: 1,
    one: 1,
    two: 2,
    three: 3,
    four: 4,
    five: 5,
    six: 6,
    seven: 7,
    eight: 8,
    nine: 9,
    ten: 10,
  },
  ...{ eleven: 11, twelve: 12, fourteen: 14, fifteen: 15, twenty: 20, thirty: 30, sixty: 60, ninety: 90 },
  ...{ 'a couple of': 2, 'a dozen': 12, half: 0.5 },
};
/** As a part of a pattern: a number in digits or in words. */
export const NUMBER = String.raw`(?:\d[\d.,]*(?:k|m|bn)?|a couple of|a dozen|${Object.keys(NUMBERS)
  .filter((word) => !word.includes(' '))
  .join('|')})(?![\p{L}\d])`;

const TIMES: Record<string, number> = { k: 1e3, m: 1e6, bn: 1e9 };

/** "20k", "20,000", "1.5m", "two". A point or comma before exactly three digits parts thousands. */
export function readNumber(text: string): number {
  const named = NUMBERS[text];
  if (named !== undefined) return named;
  const match = /^(\d[\d.,]*)(k|m|bn)?$/.exec(text);
  if (!match) return NaN;
  const digits = (match[1] ?? '').replace(/[.,](?=\d{3}(?:\D|$))/g, '').replace(',', '.');
  return Number(digits) * (TIMES[match[2] ?? ''] ?? 1);
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** A pattern for any of some texts, the longest first. Never matches where there are none. */
export const anyOf = (texts: Iterable<string>): string => {
  const all = [...new Set(texts)].filter(Boolean).sort((a, b) => b.length - a.length);
  return all.length ? `(?:${all.map(escape).join('|')})` : '(?!)';
};
