import vader from 'vader-sentiment';
import type { Tone } from './types';

/** From VADER's published recommendation: a compound of ±0.05 and beyond is a mood. */
const FROM = 0.05;
/** By then a letter has shown its tone; what is longer is a list or a paper. */
const MOST = 40;
const ENGLISH = new Set(
  'the and to of a in is for you we with that it on are i our have be as at this would your not can from they she he wants will but was has her his'.split(
    ' ',
  ),
);
/** Courtesy that every letter carries and that says nothing of a mood. */
const COURTESY =
  /\b(?:dear|kind|best|warm|regards|wishes|thanks|thank you|please|sincerely|hello|good (?:morning|afternoon|evening)|looking forward)\b/gi;

/** VADER's compound score of one sentence, −1 to 1 (Hutto & Gilbert, ICWSM 2014), by the package vader-sentiment. */
export const compoundOf = (sentence: string): number =>
  vader.SentimentIntensityAnalyzer.polarity_scores(sentence).compound;

const neutral = new Map<string, boolean>();
const MOST_KNOWN = 50_000;

/** Whether VADER gives a word no score by itself; a sentence of only such words has none either, and need not be scored. */
function isNeutral(word: string): boolean {
  let is = neutral.get(word);
  if (is === undefined) {
    is = compoundOf(word) === 0;
    if (neutral.size >= MOST_KNOWN) neutral.clear();
    neutral.set(word, is);
  }
  return is;
}

/** Whether enough of the commonest English words stand in a text for VADER's English word list to mean anything. */
function isEnglish(text: string): boolean {
  const words = text.toLowerCase().match(/[a-zà-ÿ']+/g) ?? [];
  return words.length > 0 && words.filter((word) => ENGLISH.has(word)).length / words.length >= 0.12;
}

/**
 * The tone of a text: the mean of the VADER scores of its first forty sentences, courtesy left out.
 * @param text what is said, without quoting and signature
 * @returns null when it is not English or too short to tell: the method knows English words only, no irony, no trade
 */
export function toneOf(text: string): Tone | null {
  if (!isEnglish(text)) return null;
  const scores = text
    .replace(COURTESY, ' ')
    .split(/(?<=[.!?])\s+|\n+/)
    .filter((sentence) => sentence.trim().length > 2)
    .slice(0, MOST)
    .filter((sentence) => sentence.split(/\s+/).some((word) => !isNeutral(word)))
    .map(compoundOf)
    .filter((score) => score !== 0);
  if (!scores.length) return 'neutral';
  const mean = scores.reduce((sum, one) => sum + one, 0) / scores.length;
  return mean >= FROM ? 'positive' : mean <= -FROM ? 'negative' : 'neutral';
}
