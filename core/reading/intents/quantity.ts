import { alternatives } from '../../words/compile';
import type { Intent } from '../types';
import { NUMBER_WORDS, readNumber } from './numbers';
import type { Sentence } from './sentences';

const GOODS = new RegExp(
  String.raw`^(?:e-?)?(?:cargo|long|e|electric|delivery|box|courier|rear|front|cold|service|charging|spare|rain)?-?(?:${alternatives('goods')})$`,
  'iu',
);
const NOT_GOODS = new RegExp(String.raw`^(?:${alternatives('notGoods')})$`, 'iu');
const WANT = new RegExp(String.raw`(?<!\p{L})(?:${alternatives('wantsGoods')})(?!\p{L})`, 'iu');
const COUNT = new RegExp(
  `(?<![\\p{L}\\d.,:€£$+/-])(?<count>half a dozen|(?:an?\\s)?(?:dozen|couple of|pair of)|\\d{1,5}|(?:${NUMBER_WORDS})(?:-(?:${NUMBER_WORDS}))?)(?:\\s*x)?\\s+(?=\\p{L})`,
  'giu',
);
const PHRASE = /^\p{L}[\p{L}'’-]*(?: \p{L}[\p{L}'’-]*){0,3}/u;
/** A word that begins something else: "five bikes and two trailers" are two counts. */
const ENDS = new RegExp(
  `^(?:and|or|und|oder|et|ou|e|y|o|en|of|och|og|plus|with|mit|avec|com|con|met|for|für|pour|para|per|${NUMBER_WORDS})$`,
  'iu',
);
/** "six bicicletas de carga", "deux plateaux de livraison": a complement in Romance languages belongs to the thing. */
const COMPLEMENT = /^(?:de|da|do|di|à|para)$/iu;
const ARTICLES = /^(?:a|an|ein|eine|einen|un|une|um|uma|een)$/i;

const MORE = /^(?:more|other|additional|extra|further|weitere|zusätzliche|autres|mais|más|altri|extra's)$/iu;

/** How many words of a phrase name the thing counted, and how surely; null when it is none. */
function thingIn(words: readonly string[], wanted: boolean): { length: number; confidence: number } | null {
  if (MORE.test(words[0] ?? '') && words.length > 1) {
    const rest = thingIn(words.slice(1), wanted);
    return rest && { ...rest, length: rest.length + 1 };
  }
  if (NOT_GOODS.test(words[0] ?? '')) return null;
  const stop = words.findIndex(
    (word, index) => index > 0 && (NOT_GOODS.test(word) || (ENDS.test(word) && !COMPLEMENT.test(word))),
  );
  const own = stop < 0 ? words : words.slice(0, stop);
  const complement = own.findIndex((word) => COMPLEMENT.test(word));
  const noun = complement > 0 ? own.slice(0, complement) : own;
  const head = noun.findLastIndex((word) => GOODS.test(word));
  if (head >= 0) return { length: head + 1, confidence: wanted ? 0.92 : 0.8 };
  const plural = noun.findIndex((word) => /s$/.test(word) && word.length > 3);
  return wanted && plural >= 0 && plural <= 2 ? { length: plural + 1, confidence: 0.6 } : null;
}

/** Counts of things wanted or had: "eight long bikes", "12 trailers". Times, dates, sums and distances are not. */
export function readQuantities(sentence: Sentence): Intent[] {
  const intents: Intent[] = [];
  const wanted = WANT.test(sentence.text);
  for (const match of sentence.text.matchAll(COUNT)) {
    const count = match.groups?.count ?? '';
    const number = readNumber(count);
    const from = match.index + match[0].length;
    const words = (PHRASE.exec(sentence.text.slice(from, from + 120))?.[0] ?? '').split(' ');
    if (number === null || number < 1 || ARTICLES.test(count)) continue;
    const thing = thingIn(words, wanted);
    if (!thing) continue;
    const noun = words.slice(0, thing.length).join(' ');
    const end = from + noun.length;
    intents.push({
      kind: 'quantity',
      text: sentence.text.slice(match.index, end),
      value: { count: number, of: noun },
      confidence: thing.confidence,
      span: { part: 'text', start: sentence.at(match.index), end: sentence.at(end - 1) + 1 },
    });
  }
  return intents;
}
