import { lowered, matchesOf } from '../matches';
import { alternatives } from '../../words/compile';
import type { Intent } from '../types';
import { isNumberWord, NUMBER_WORDS, readNumber } from './numbers';
import type { Sentence } from './sentences';
import { hasNumber } from './vocabulary';

const GOODS = new RegExp(
  String.raw`^(?:e-?)?(?:cargo|long|e|electric|delivery|box|courier|rear|front|cold|service|charging|spare|rain)?-?(?:${alternatives('goods')})$`,
  'iu',
);
const NOT_GOODS = new RegExp(String.raw`^(?:${alternatives('notGoods')})$`, 'iu');
const WANT = new RegExp(String.raw`(?<!\p{L})(?:${alternatives('wantsGoods')})(?!\p{L})`, 'iu');
const countOf = (numbers: string): RegExp =>
  new RegExp(`(?<![\\p{L}\\d.,:€£$+/-])(?<count>${numbers})(?:\\s*x)?\\s+(?=\\p{L})`, 'gu');
/** Counts in figures, and counts in figures or words: the words are many, and most counts are figures. */
const IN_FIGURES = countOf('\\d{1,5}');
const IN_WORDS_TOO = countOf(
  `half a dozen|(?:an?\\s)?(?:dozen|couple of|pair of)|\\d{1,5}|(?:${NUMBER_WORDS})(?:-(?:${NUMBER_WORDS}))?`,
);
const PHRASE = /^\p{L}[\p{L}'’-]*(?: \p{L}[\p{L}'’-]*){0,3}/u;
/** A word that begins something else: "five bikes and two trailers" are two counts. */
const ENDS = new RegExp(
  `^(?:and|or|und|oder|et|ou|e|y|o|en|of|och|og|plus|with|mit|avec|com|con|met|for|für|pour|para|per|${NUMBER_WORDS})$`,
  'iu',
);
/** "six bicicletas de carga", "deux plateaux de livraison": a complement in Romance languages belongs to the thing. */
const COMPLEMENT = /^(?:de|da|do|di|à|para)$/iu;
/** "qty 25", "Menge: 25". */
const QTY =
  /(?<![\p{L}])(?:qty|quantity|menge|anzahl|stückzahl|qté|quantité|cantidad|quantidade|qtd|quantità|aantal|antal|antall|ilość)\.?\s?[:=]?\s?(?<count>\d{1,5})(?![\d.,]*\d)/giu;
/** "10 to start, possibly 25 by summer". */
const TO_START = new RegExp(
  `(?<![\\p{L}\\d.,:])(?<count>\\d{1,4}|${NUMBER_WORDS})\\s(?:${alternatives('toStart')})(?!\\p{L})`,
  'giu',
);
/** What withdraws the number behind it. */
const NOT = 'not|rather than|instead of|nicht|statt|pas|niet|non|no|não|inte|ikke|nie';
/** "needs 5", "wil er 10", "wants 6 not 4", "say 20": of what was said before. */
const BARE = new RegExp(
  `(?<![\\p{L}])(?:${alternatives('wantsSome')}|${alternatives('sayCount')})\\s(?<count>\\d{1,4}|${NUMBER_WORDS})(?=\\s*(?:[.,;!?]|$)|,?\\s(?:${NOT})\\s\\d|\\s(?:by|from|before|until|asap|per|next|this|to start|to begin|bis|ab|d['’]ici|para|entro|voor|tot|till|från|fra)(?!\\p{L})|\\s(?:for|pour|für|para|per|voor)\\s(?!\\d|an?\\s|the\\s(?:day|week|month)|(?:${NUMBER_WORDS})\\s))`,
  'giu',
);
/** "Would like about 30 …": what stands right before a count of something wanted. */
const WANTED_HERE = new RegExp(
  `(?<!\\p{L})(?:${alternatives('wantsSome')})(?:\\s(?:about|around|some|maybe|another|up to|roughly|etwa|ca\\.?|noch|rund|environ|encore|autres|unos|unas|cerca de|mais|mais de|circa|altri|altre|ongeveer|nog|ca|omkring|runt|cirka|noin|około|asi|at least|min(?:imum)?\\.?|the|her|his))?\\s$`,
  'iu',
);
const WITHDRAWN = new RegExp(`(?:^|[\\s,])(?:${NOT})\\s$`, 'iu');
/** What is meant where the number before the thing is withdrawn: "12, not 10 crates". */
const MEANT = new RegExp(
  `(?<![\\p{L}\\d.])(?<count>\\d{1,5}|${NUMBER_WORDS}),?\\s(?:and\\s|und\\s|y\\s|e\\s)?(?:${NOT})\\s$`,
  'iu',
);
const ARTICLES = /^(?:a|an|ein|eine|einen|un|une|um|uma|een)$/i;

const MORE = /^(?:more|other|additional|extra|further|weitere|zusätzliche|autres|mais|más|altri|extra's)$/iu;

/** In our own notes a number before a thing is a count of it, whatever it is. */
export interface Counting {
  anything?: boolean;
  /** What the organisation sells, as people call it. */
  goods?: readonly string[];
}

/** The words that name what is sold, of the names of products: "Long bike", "Lift maintenance". */
export const goodsOf = (names: readonly string[]): string[] => [
  ...new Set(names.flatMap((name) => name.toLowerCase().match(/\p{L}{4,}/gu) ?? [])),
];

/** How sure a count is of something that is in no list. */
const UNKNOWN_THING = 0.7;

/** How many words of a phrase name the thing counted, and how surely; null when it is none. */
function thingIn(
  words: readonly string[],
  wanted: boolean,
  isWantedHere: boolean,
  counting: Counting,
): { length: number; confidence: number } | null {
  if (MORE.test(words[0] ?? '') && words.length > 1) {
    const rest = thingIn(words.slice(1), wanted, isWantedHere, counting);
    return rest && { ...rest, length: rest.length + 1 };
  }
  if (NOT_GOODS.test(words[0] ?? '') || isNumberWord(words[0] ?? '')) return null;
  const stop = words.findIndex(
    (word, index) => index > 0 && (NOT_GOODS.test(word) || (ENDS.test(word) && !COMPLEMENT.test(word))),
  );
  const own = stop < 0 ? words : words.slice(0, stop);
  const complement = own.findIndex((word) => COMPLEMENT.test(word));
  const noun = complement > 0 ? own.slice(0, complement) : own;
  const head = noun.findLastIndex((word) => GOODS.test(word));
  if (head >= 0) return { length: head + 1, confidence: wanted ? 0.92 : 0.8 };
  const sold = noun.findLastIndex((word) => counting.goods?.some((one) => isForm(word, one)));
  if (sold >= 0) return { length: sold + 1, confidence: wanted ? 0.92 : 0.85 };
  const plural = noun.findIndex((word) => /s$/.test(word) && word.length > 3);
  if (wanted && plural >= 0 && plural <= 2) return { length: plural + 1, confidence: 0.7 };
  const [first = '', second = ''] = noun;
  if (isWantedHere && first.length > 2) return { length: 1, confidence: UNKNOWN_THING };
  // "12 Mill Lane" is an address, and a word of three letters joins others.
  const isThing = first.length > 3 && !(/^\p{Lu}/u.test(first) && /^\p{Lu}/u.test(second));
  return counting.anything && isThing ? { length: 1, confidence: 0.55 } : null;
}

/** Between two marks, nothing but a count and a thing: "responsabile acquisti: sette carrelli, …". */
const isByItself = (before: string, behind: string): boolean =>
  /(?:^|[,;:–—]\s)(?:une?\s|una\s|uma\s|eine?\s|een\s|en\s|et\s)?$/.test(before) && BY_ITSELF.test(behind);
const BY_ITSELF =
  /^(?:\p{L}[\p{L}'’-]{2,}|\p{Ll}[\p{L}'’-]{2,}\s\p{Ll}[\p{L}'’-]{2,})(?:\s(?:a|an|per|par|por|pro|al|alla|om|i|im|à la|la|au|ao|every|each|jeden?|jede[rs]?|chaque|cada|ogni|elke|iedere|hver|varje|każd\p{L}+|každ\p{L}+|joka|by|before|until|from|bis|ab|avant|antes|entro|voor|tot|innen|innan|før|do|from)\s\p{L}+.*)?\s*(?:[,;.!]|$)/u;

/** Whether a word is a thing or more than one of it: "stem", "stems"; "boxes" of "box". */
function isForm(word: string, thing: string): boolean {
  const [a, b] = [word.toLowerCase(), thing.toLowerCase()];
  return a === b || (a.startsWith(b) && /^(?:e?s|n|en|er|r|i|e)$/.test(a.slice(b.length)));
}

/**
 * Counts of things wanted or had: "eight long bikes", "12 trailers", "qty 25". Times, dates, sums and distances are not, nor
 * numbers that are withdrawn ("12, not 10").
 */
export function readQuantities(sentence: Sentence, counting: Counting = {}): Intent[] {
  const number = hasNumber(sentence.text);
  if (!number) return [];
  const intents: Intent[] = counting.anything ? bareCounts(sentence) : [];
  const wanted = WANT.test(sentence.text);
  for (const match of matchesOf(number === 'in words' ? IN_WORDS_TOO : IN_FIGURES, lowered(sentence.text))) {
    const count = match.groups?.count ?? '';
    const before = sentence.text.slice(0, match.index);
    const isWithdrawn = WITHDRAWN.test(before);
    const meant = isWithdrawn ? MEANT.exec(before)?.groups?.count : undefined;
    if (isWithdrawn && !meant) continue;
    const number = readNumber(meant ?? count);
    const [of = ''] = /^(?:de |d['’])/i.exec(sentence.text.slice(match.index + match[0].length)) ?? [];
    const from = match.index + match[0].length + of.length;
    const words = (PHRASE.exec(sentence.text.slice(from, from + 120))?.[0] ?? '').split(' ');
    if (number === null || number < 1 || ARTICLES.test(count)) continue;
    const isWantedHere = WANTED_HERE.test(before) || isByItself(before, sentence.text.slice(from));
    const thing = thingIn(words, wanted, isWantedHere, counting);
    const place = sentence.at(match.index);
    // "A price for one longtail" says no number.
    if (number === 1 && !/\d/.test(count) && thing && thing.confidence <= UNKNOWN_THING) continue;
    if (!thing || intents.some(({ span }) => span.start <= place && place < span.end)) continue;
    const noun = words.slice(0, thing.length).join(' ');
    const end = from + noun.length;
    intents.push({
      kind: 'quantity',
      text: sentence.text.slice(match.index, end),
      value: { count: number, of: noun },
      confidence: thing.confidence,
      span: { part: 'text', start: place, end: sentence.at(end - 1) + 1 },
    });
  }
  return intents;
}

/** Counts without a thing behind them. */
function bareCounts(sentence: Sentence): Intent[] {
  return [QTY, BARE, TO_START].flatMap((pattern) =>
    [...matchesOf(pattern, lowered(sentence.text))].flatMap((match): Intent[] => {
      const count = readNumber(match.groups?.count ?? '');
      // "He wants one" is of whatever was spoken of.
      if (count === null || (count === 1 && !/\d/.test(match[0]))) return [];
      return [
        {
          kind: 'quantity',
          text: match[0],
          value: { count, of: '' },
          confidence: pattern === QTY ? 0.9 : 0.7,
          span: {
            part: 'text',
            start: sentence.at(match.index),
            end: sentence.at(match.index + match[0].length - 1) + 1,
          },
        },
      ];
    }),
  );
}
