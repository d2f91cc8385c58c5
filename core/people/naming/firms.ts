import { companyKey } from '../companies';
import { fold } from '../text';
import { romanise } from './romanise';
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

const LITTLE = new Set('and und et y e en i the der die das le la les de du des of for fur pour'.split(' '));

/** A firm's name in its parts, however it is written; trade words of many languages are what they mean. */
export function firmParts(name: string): FirmParts {
  const latin =
    scriptOf(name) === 'latin'
      ? name
      : name
          .split(/\s+/)
          .map((word) => romanise(word)[0] ?? word)
          .join(' ');
  const key = companyKey(latin);
  const words = key.split(' ').filter((word) => word && !LITTLE.has(word));
  const dotted = new Set([...latin.matchAll(/(\p{L}{3,})\./gu)].map((one) => fold(one[1] ?? '')));
  const of = (word: string): string[] => {
    const trade = TRADES.get(word);
    return trade ? [trade] : dotted.has(word) ? shortenedOf(word) : [];
  };
  const core = words.filter((word, at) => !of(word).length || (at === 0 && words.length === 1));
  const told = core.length ? core : words;
  const initials = words.length > 2 ? words.map((word) => word[0] ?? '').join('') : '';
  return {
    key,
    core: told.map(spellingKey).join(' '),
    initials,
    trades: [...new Set(words.flatMap(of))].filter((trade) => trade !== 'generic'),
  };
}

/** Whether a firm's name is nothing but a few capitals, as initials are. */
export const isInitials = (name: string): boolean => /^[A-Z]{3,5}$/.test(name.trim().replace(/\./g, ''));
