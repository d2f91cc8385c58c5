import { alternatives } from '../../words/compile';
import { lowered, matchesOf } from '../matches';
import { minorDigits } from '../../lifecycle/minorUnits';
import type { Intent } from '../types';
import { CURRENCY_NAME, CURRENCY_SIGN, currencyCalled, moneyOf } from './currencies';
import { SCALE_WORDS } from './figures';
import { NUMBER_WORDS, readNumber } from './numbers';
import type { Sentence } from './sentences';
import { hasNumber } from './vocabulary';

const SIGN = CURRENCY_SIGN;
const NAME = CURRENCY_NAME;
const BUDGET = alternatives('budget');
const FIGURE = `\\d{1,3}(?:[., \\u00a0\\u202f']\\d{3})+(?:[.,]\\d{1,2})?|\\d+(?:[.,]\\d{1,2})?`;
const SCALE = `\\s?(?:${SCALE_WORDS})\\b\\.?`;
const AMOUNT = `(?:${FIGURE})(?:${SCALE})?`;
/** "€12-15k": the scale behind the second figure counts for the first as well. */
const RANGE = `(?:(?:${FIGURE})(?:${SCALE})?\\s?[-\u2013]\\s?)?`;
const WORD = `(?:${NUMBER_WORDS})(?:mila|tausend|duizend|tusen|tusind)|(?:${NUMBER_WORDS})(?:[- ](?:${NUMBER_WORDS}))?\\s(?:thousand|hundred|million|mil|tausend|duizend|mille)`;
/** "four hundred and twenty", "three and a half". */
const SPOKEN = `\\b(?:${NUMBER_WORDS}|an?)(?:(?:[- ]|\\sand\\s)(?:${NUMBER_WORDS}|a half|hundred|thousand)){1,6}`;
const WRITTEN_OUT = `|\\bhalf a million|${SPOKEN}|\\b${WORD}`;
const patternOf = (figures: string, grands: string): RegExp =>
  new RegExp(
    `(?<sign>${SIGN})\\s?(?<low>${RANGE})(?<after>${AMOUNT})|(?<before>(?:${figures}))(?:,-|,–)?\\s?(?<name>${NAME})|(?<grand>${grands})\\s(?:grand|tkr)\\b|(?<![\\p{L}\\d.,])(?<bare>\\d{1,4}(?:[.,]\\d{1,2})?(?:k|\\s?(?:la(?:kh|c)|crore)s?))\\b|(?<![\\p{L}\\d])r\\s?(?<rand>\\d{1,3}(?:[ ,]\\d{3})+|\\d+\\s?k\\b)|(?<=\\b(?:${BUDGET})(?:\\s[\\p{L}]+){0,4}\\s)(?<budget>\\d{1,3}(?:[., ]\\d{3})+|\\d{3,7})(?![\\d.,]*\\d)`,
    'gu',
  );
/** Sums in figures, and sums in figures or words: the words are many, and most sums are figures. */
const IN_FIGURES = patternOf(AMOUNT, FIGURE);
const IN_WORDS_TOO = patternOf(`${AMOUNT}${WRITTEN_OUT}`, `${FIGURE}|${SPOKEN}|\\b(?:${NUMBER_WORDS})`);
/** Without one of these there is no sum, and most sentences have none. */
const HINT = new RegExp(
  `${NAME}|\\b(?:grand|tkr)\\b|\\dk\\b|\\d\\s?(?:la(?:kh|c)|crore)|\\br\\s?\\d|\\b(?:${BUDGET})\\b`,
  'u',
);
const ABOUT =
  /\b(?:about|around|roughly|approx(?:imately)?\.?|circa|ca\.?|some|up to|max(?:imum)?|nearly|under|etwa|rund|ungefähr|bis zu|environ|cerca de|à volta de|unos|alrededor de|ongeveer|zo'n|circa)\s*$/iu;
const MONEY_TALK =
  /\b(?:budget|spend|pay|cost|price|invest|afford|quote|worth|kosten|preis|ausgeben|orçamento|presupuesto|coût)\b/iu;

interface Purse {
  /** The speaker's likely countries, for a sum that names no currency. */
  countries?: readonly string[];
  /** ISO 4217 code where the countries tell nothing. */
  currency?: string;
  /** What "48k" is where no word speaks of money: in a letter anything, in our own lines a sum. */
  bare?: 'anything' | 'a sum';
}

/**
 * Amounts of money in a sentence. `value.minor` is in the currency's minor unit (1/100; ISO 4217).
 */
export function readMoney(
  sentence: Sentence,
  { countries = [], currency: otherwise = 'EUR', bare }: Purse,
): Intent[] {
  const text = lowered(sentence.text);
  const number = hasNumber(sentence.text);
  const isSpelt = number === 'in words' || /half|thousand|million/.test(text);
  if ((!number && !isSpelt) || !HINT.test(text)) return [];
  const intents: Intent[] = [];
  const pattern = isSpelt ? IN_WORDS_TOO : IN_FIGURES;
  for (const match of matchesOf(pattern, text)) {
    const groups = match.groups ?? {};
    const written = readNumber(
      groups.after ?? groups.before ?? groups.grand ?? groups.bare ?? groups.rand ?? groups.budget ?? '',
    );
    const amount = written === null ? null : written * (groups.grand ? 1000 : 1);
    if (amount === null || amount <= 0 || amount > 1e10) continue;
    if (groups.bare && bare !== 'a sum' && !MONEY_TALK.test(sentence.text)) continue;
    const local = moneyOf(countries[0] ?? '') ?? otherwise;
    const named = currencyCalled(groups.sign ?? groups.name ?? (match[0].endsWith('tkr') ? 'kr' : ''), local);
    const currency = named?.currency ?? (groups.rand ? 'ZAR' : local);
    const before = ABOUT.exec(sentence.text.slice(0, match.index));
    intents.push({
      kind: 'money',
      text: sentence.text.slice(match.index, match.index + match[0].length).trim(),
      value: {
        minor: Math.round(amount * 10 ** minorDigits(currency)),
        currency,
        approximate: before !== null || Boolean(groups.low),
      },
      confidence: named?.isSure || groups.rand ? 0.96 : 0.7,
      span: {
        part: 'text',
        start: sentence.at(match.index),
        end: sentence.at(match.index) + match[0].length,
      },
    });
  }
  return intents;
}
