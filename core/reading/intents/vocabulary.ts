import { FEAST_WORDS, flatten, MONTH_WORDS, PART_OF_DAY, RELATIVE, WEEKDAY_WORDS } from './dateWords';
import { MONTHS_WORD, UNIT, WEEK } from './dayPatterns';
import { isNumberWord } from './numbers';

/** Which kinds of words a text has, without which the patterns that look for days, counts and sums cannot hold. */
export interface Vocabulary {
  digit: boolean;
  number: boolean;
  month: boolean;
  weekday: boolean;
  /** What a day is said with that is told by its distance, a unit or a feast, and not by its number or name. */
  near: boolean;
}

type Kind = Exclude<keyof Vocabulary, 'digit'>;

const wordsOf = (phrases: readonly string[]): string[] =>
  phrases.flatMap((phrase) => phrase.split(/[^\p{L}]+/u)).filter((word) => word.length > 2);
const NEAR_WORDS = new Set([
  ...wordsOf(Object.keys(RELATIVE)),
  ...FEAST_WORDS,
  'afternoon',
  'huitaine',
  'quinzaine',
  'couple',
  'fortnight',
  'morning',
  'evening',
]);
const NEAR = new RegExp(
  `^(?:${WEEK}|${MONTHS_WORD}|${UNIT}|weekend|monatsende|ubernachste|konca|konce|slut|viik|paiv|kuukau|tygod|tyd|working|business|work|werk|arbeits|jours|dias|eow|eod|cob|eom|q[1-4])`,
);

const WITH_PART = new RegExp(
  `^(?:${[...WEEKDAY_WORDS].filter((word) => word.length > 4).join('|')})${PART_OF_DAY}$`,
);
const NOTHING: readonly Kind[] = [];
/** Texts of one language have few words, and each is looked up once. */
const known = new Map<string, readonly Kind[]>();
const MOST_KNOWN = 50_000;

function kindsOf(word: string): readonly Kind[] {
  const found = known.get(word);
  if (found) return found;
  const kinds: Kind[] = [];
  if (isNumberWord(word)) kinds.push('number');
  if (MONTH_WORDS.has(word)) kinds.push('month');
  if (WEEKDAY_WORDS.has(word) || WITH_PART.test(word)) kinds.push('weekday');
  if (NEAR_WORDS.has(word) || NEAR.test(word)) kinds.push('near');
  if (known.size >= MOST_KNOWN) known.clear();
  const kept = kinds.length ? kinds : NOTHING;
  known.set(word, kept);
  return kept;
}

/** Days, sums and counts are looked for in the same sentence one after the other. */
let last: { flat: string; has: Vocabulary } | null = null;

/**
 * The vocabulary of a text. Asking for single words is many times quicker than a pattern of all of them, and most sentences
 * have none.
 * @param flat text as `flatten` gives it
 */
export function vocabularyOf(flat: string): Vocabulary {
  if (last?.flat === flat) return last.has;
  const has: Vocabulary = {
    digit: /\d/.test(flat),
    number: false,
    month: false,
    weekday: false,
    near: false,
  };
  for (const word of flat.split(/[^\0-\x7f]/.test(flat) ? /[^\p{L}\d]+/u : /[^a-z\d]+/))
    if (word.length > 1) for (const kind of kindsOf(word)) has[kind] = true;
  last = { flat, has };
  return has;
}

/** Whether a text has a number in figures or in words. */
export const hasNumber = (text: string): 'in figures' | 'in words' | null => {
  const { digit, number } = vocabularyOf(flatten(text));
  if (number) return 'in words';
  return digit ? 'in figures' : null;
};
