import { companyKey } from '../companies';
import legal from './legal.json';
import { fold } from '../text';
import { romanise } from './romanise';
import { isSlipOf } from './slips';
import { scriptOf } from './scripts';
import { spellingKey } from './spelling';
import trades from './trades.json';

/** A firm's name in its parts. */
export interface FirmParts {
  /** The whole name, folded, without its legal form; in Latin letters. */
  key: string;
  /** What tells it from others: without words of its trade and words that any firm may have, joined by a space. */
  core: string;
  /** The first letters of all its words, where there are three or more. */
  initials: string;
  /** Its legal form; nothing where it has none. */
  form: string;
  /** Lands whose law knows that form. */
  lands: readonly string[];
  /** Which trades it names; several where a shortened word may be of several. */
  trades: readonly string[];
}

const TRADES = new Map<string, string>();
for (const [trade, words] of Object.entries(trades))
  for (const word of words.split(' ')) TRADES.set(word, trade);
const WORDS = [...TRADES.keys()].filter((word) => word.length > 5).sort();
/** So much of a word of a trade stands for it: "Eng.", "Transp.". */
const SHORTENED = /^(?:[a-z]{3,8})$/;

/** The trades that a shortened word may be of. */
function shortenedOf(word: string): string[] {
  if (!SHORTENED.test(word)) return [];
  return [...new Set(WORDS.filter((one) => one.startsWith(word)).map((one) => TRADES.get(one) ?? ''))];
}

/** A word of so many letters may be a word of a trade with a slip in it. */
const MISTAKABLE = 6;
const mistyped = new Map<string, readonly string[]>();
/** The trades of which a word is a slip away from a word. */
function mistypedOf(word: string): readonly string[] {
  if (word.length < MISTAKABLE) return [];
  let trades = mistyped.get(word);
  if (!trades) {
    const like = WORDS.find((one) => one.length >= MISTAKABLE && isSlipOf(word, one));
    trades = like ? [TRADES.get(like) ?? ''] : [];
    if (mistyped.size > REMEMBERED) mistyped.clear();
    mistyped.set(word, trades);
  }
  return trades;
}
const REMEMBERED = 20_000;

const LANDS = new Map<string, string[]>();
for (const [land, forms] of Object.entries(legal))
  for (const form of forms.split(' ')) LANDS.set(form, [...(LANDS.get(form) ?? []), land]);
/** Forms that are one, written in full or in short. */
const SAME_FORM: Record<string, string> = {
  limited: 'ltd',
  incorporated: 'inc',
  corporation: 'corp',
  limitada: 'lda',
  private: 'pvt',
  mbh: 'gmbh',
};
/** Legal forms of scripts that put no space between words, before or after the name. */
const JOINED =
  /株式会社|有限会社|合同会社|股份有限公司|有限责任公司|有限公司|集团|주식회사|유한회사|\((?:주|유|株|有)\)|㈜|㈱/gu;
const DOTTED = /(?<!\p{L})(?:\p{L}{1,3}\.){1,4}\p{L}{0,3}(?!\p{L})/gu;
/** Forms that are written as several words. */
const PARTED = /\bsp\.?\s?z\s?o\.?\s?o\.?(?=\s|$)|\bsp\.?\s?k\.?(?=\s|$)/giu;

/** A firm's name without the legal form at its beginning or end, folded, and the lands whose law knows that form. */
function withoutForm(name: string): { words: string[]; form: string; lands: string[] } {
  const asForm = (text: string): string => {
    const form = fold(text).replace(/ /g, '');
    return LANDS.has(form) ? ` ${form} ` : text;
  };
  const together = name.replace(JOINED, ' ').replace(PARTED, asForm).replace(DOTTED, asForm);
  const words = companyWords(together);
  let lands: string[] | null = null;
  let form = '';
  const take = (word: string | undefined): boolean => {
    const known = word ? LANDS.get(word) : undefined;
    if (!known || !word) return false;
    form ||= SAME_FORM[word] ?? romanise(word)[0] ?? word;
    lands = lands === null ? known : lands.filter((land) => known.includes(land));
    return true;
  };
  const isBetween = (): boolean =>
    words.at(-1) === 'and' || (lands !== null && words.at(-1) === 'de' && LANDS.has(words.at(-2) ?? ''));
  while (words.length > 1 && (isBetween() || take(words.at(-1)))) words.pop();
  // In Cyrillic and Greek the form stands before the name.
  if (words.length > 1 && /[^\0-\u024f]/.test(name) && take(words[0])) words.shift();
  return { words, form, lands: lands ?? [] };
}
const companyWords = (name: string): string[] => fold(name.replace(/&/g, ' and ')).split(' ');

const LITTLE = new Set('and und et y e en i the der die das le la les de du des of for fur pour'.split(' '));

/** Firms whose names were parted lately. */
const lately = new Map<string, FirmParts>();

/** A firm's name in its parts, however it is written; trade words of many languages are what they mean. */
export function firmParts(name: string): FirmParts {
  let parts = lately.get(name);
  if (!parts) {
    if (lately.size >= REMEMBERED) lately.clear();
    parts = parted(name);
    lately.set(name, parts);
  }
  return parts;
}

function parted(name: string): FirmParts {
  const bare = withoutForm(name);
  const latin =
    scriptOf(name) === 'latin'
      ? bare.words.join(' ')
      : bare.words.map((word) => romanise(word)[0] ?? word).join(' ');
  const key = companyKey(latin);
  const words = key.split(' ').filter((word) => word && !LITTLE.has(word));
  const dotted = new Set([...name.matchAll(/(\p{L}{3,})\./gu)].map((one) => fold(one[1] ?? '')));
  const of = (word: string, at: number): readonly string[] => {
    const trade = TRADES.get(word);
    if (trade) return [trade];
    return dotted.has(word) ? shortenedOf(word) : at > 0 ? mistypedOf(word) : [];
  };
  const core = words.filter((word, at) => !of(word, at).length);
  // A name of nothing but words of trades is told by the first.
  const told = core.length ? core : words.length ? words.slice(0, 1) : [key];
  const initials = words.length > 2 ? words.map((word) => word[0] ?? '').join('') : '';
  return {
    key,
    core: told.map(spellingKey).join(' '),
    initials,
    form: bare.form,
    lands: bare.lands,
    trades: [...new Set(words.slice(core.length ? 0 : 1).flatMap((word, at) => of(word, at + 1)))].filter(
      (trade) => trade !== 'generic',
    ),
  };
}

/** Whether a firm's name is nothing but a few capitals, as initials are. */
export const isInitials = (name: string): boolean => /^[A-Z]{3,5}$/.test(name.trim().replace(/\./g, ''));
