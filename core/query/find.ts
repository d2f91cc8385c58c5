import { getCountries, getCountryCallingCode, type CountryCode } from 'libphonenumber-js/max';
import { jaroWinkler } from '../matching/similarity';
import { readPhone } from '../people/phones';
import { fold } from '../people/text';

/** What somebody typed to find a record by. */
export interface Sought {
  /** What each record found must have a word beginning with; folded, or as typed where it is a part of an address. */
  terms: string[];
  /** The one word typed that may be an address or a domain instead of a name, lower case; null when none is. */
  address: string | null;
  phone: SoughtPhone | null;
}

export interface SoughtPhone {
  /** Beginnings of numbers in E.164 the digits may stand for, likeliest first. */
  starts: string[];
  /** Beginnings they have if they were written for one of the other countries. */
  elsewhere: string[];
  /** What a number may end in, reversed; null when too few digits were typed. */
  ending: string | null;
}

const MOST_TERMS = 6;
const LEAST_DIGITS = 4;
/** The last four digits are what people remember of a number. */
const LEAST_ENDING = 4;
/** With fewer, numbers of every country would begin with them. */
const LEAST_ABROAD = 5;
const ALL_CODES = [...new Set(getCountries().map((country) => getCountryCallingCode(country)))];

function readDigits(text: string, country: string): SoughtPhone | null {
  if (/[^\d\s+()./-]/.test(text)) return null;
  const written = text.replace(/\(0\)/g, ' ').replace(/^\s*00(?=[1-9])/, '+');
  const digits = written.replace(/\D/g, '');
  if (digits.length < LEAST_DIGITS) return null;
  const isAbroad = written.trim().startsWith('+');
  const bare = digits.replace(/^0+/, '');
  const whole = readPhone(text, [country])?.normalized;
  const house = `+${getCountryCallingCode(country as CountryCode)}${bare}`;
  const starts = isAbroad ? [`+${digits}`] : [house, `+${bare}`];
  return {
    starts: [...new Set([...(whole ? [whole] : []), ...starts])],
    elsewhere: isAbroad || bare.length < LEAST_ABROAD ? [] : ALL_CODES.map((code) => `+${code}${bare}`),
    ending: bare.length >= LEAST_ENDING ? [...bare].reverse().join('') : null,
  };
}

/**
 * Reads what was typed into the find field.
 * @param country ISO 3166-1 alpha-2, whose numbers are written without a country code
 */
export function readSought(text: string, country: string): Sought {
  const typed = text.trim().toLowerCase();
  const terms: string[] = [];
  for (const part of typed.split(/\s+/).filter(Boolean)) {
    if (part.includes('@')) terms.push(part.replace(/^(?:mailto:)?@?/, ''));
    else terms.push(...fold(part).split(' '));
  }
  return {
    terms: [...new Set(terms.filter(Boolean))].slice(0, MOST_TERMS),
    address: /^[\p{L}\p{N}][\p{L}\p{N}_+-]*\.[\p{L}\p{N}._+-]*$/u.test(typed) ? typed : null,
    phone: readDigits(typed, country),
  };
}

const MOST_WORDS = 16;
const CLOSE = 0.86;

/** The number of slips between two words, transposed neighbours counting as one (Damerau 1964); stops counting at 3. */
function slips(a: string, b: string): number {
  if (Math.abs(a.length - b.length) > 2) return 3;
  let [before, last] = [[] as number[], Array.from({ length: b.length + 1 }, (_, index) => index)];
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      let least = Math.min((last[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (last[j - 1] ?? 0) + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, (before[j - 2] ?? 0) + 1);
      row.push(least);
    }
    [before, last] = [last, row];
  }
  return last[b.length] ?? 3;
}

/** What a word may have been before two neighbours changed places or one letter too many was typed. */
export function unslipped(word: string): string[] {
  const made = new Set<string>();
  for (let at = 0; at < word.length; at++) {
    made.add(word.slice(0, at) + word.slice(at + 1));
    if (at) made.add(word.slice(0, at - 1) + (word[at] ?? '') + (word[at - 1] ?? '') + word.slice(at + 1));
  }
  made.delete(word);
  return [...made].filter((one) => one.length > 2);
}

/**
 * Which known words a typed one may stand for: those it is a part of, those it is a slip away from, and those whose
 * beginning it is a slip away from, the likeliest first.
 * @param term folded, at least three letters
 * @param known words that look like it
 */
export function meantWords(term: string, known: readonly string[]): string[] {
  const allowed = term.length < 4 ? 0 : term.length < 8 ? 1 : 2;
  const scored = known.flatMap((word) => {
    if (word.includes(term)) return [{ word, score: 1 + term.length / word.length }];
    const whole = slips(term, word);
    const start = word.length > term.length ? slips(term, word.slice(0, term.length)) : 3;
    const near = jaroWinkler(term, word);
    if (whole > allowed && start > allowed && !(allowed && near > CLOSE && whole <= allowed + 1)) return [];
    return [{ word, score: whole <= allowed ? near : near - 0.1 }];
  });
  return scored
    .sort((a, b) => b.score - a.score || a.word.localeCompare(b.word))
    .slice(0, MOST_WORDS)
    .map((one) => one.word);
}

interface Ranked {
  kind: string;
  /** How well it matches, 0 best. */
  level: number;
  /** How much the asker worked with it lately; null when never. */
  score: number | null;
  inactive: boolean;
  label: string;
}

/** Hits of one kind are never crowded out altogether by better ones of another. */
const KEPT_OF_A_KIND = 2;
const GOOD = 2;

/** Orders hits by match, then by how much the asker worked with them, inactive people last. */
export function rankHits<Hit extends Ranked>(hits: readonly Hit[], limit: number): Hit[] {
  const sorted = [...hits].sort(
    (a, b) =>
      Number(a.inactive) - Number(b.inactive) ||
      a.level - b.level ||
      (b.score ?? -1) - (a.score ?? -1) ||
      a.label.localeCompare(b.label),
  );
  if (sorted.length <= limit) return sorted;
  const kept = new Set<Hit>();
  const best = sorted[0]?.level ?? 0;
  for (const kind of new Set(sorted.map((hit) => hit.kind)))
    sorted
      .filter((hit) => hit.kind === kind && !hit.inactive && hit.level <= Math.max(best, GOOD))
      .slice(0, KEPT_OF_A_KIND)
      .forEach((hit) => kept.add(hit));
  for (const hit of sorted) if (kept.size < limit) kept.add(hit);
  return sorted.filter((hit) => kept.has(hit)).slice(0, limit);
}
