import vader from 'vader-sentiment';
import moods from './lexicon/moods.json';
import type { Tone } from './types';

/** From VADER's published recommendation: a compound of ±0.05 and beyond is a mood. */
const FROM = 0.05;
/** By then a letter has shown its tone; what is longer is a list or a paper. */
const MOST = 24;
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

const MOODS: ReadonlySet<string> = new Set(moods.words.split(' '));

/** Whether VADER gives a word no score by itself. Capitals and marks around it change how much a word says, and not whether. */
function isNeutral(written: string): boolean {
  const word = written.toLowerCase();
  return !MOODS.has(word) && !MOODS.has(word.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, ''));
}

const ALL_CAPITALS = /^[^a-z]*[A-Z][^a-z]*$/;
/** How many words before and behind a word VADER looks at, for what makes it stronger, weaker or its opposite. */
const [BEFORE, BEHIND] = [3, 2];

/**
 * The words of a sentence that VADER's score depends on: those with a score of their own, the words around them, "but", and marks
 * that stress; of words in capitals and others one each, for a word in capitals says more among others. Its package takes time for
 * every word, and the rest of a sentence changes nothing.
 */
export function withMood(sentence: string): string {
  const tokens = sentence.split(/\s+/).filter(Boolean);
  // Single characters are no words to VADER.
  const words = tokens.flatMap((token, at) => (token.length > 1 ? [at] : []));
  const kept = new Set<number>();
  for (const [order, at] of words.entries())
    if (!isNeutral(tokens[at] ?? ''))
      for (const near of words.slice(Math.max(0, order - BEFORE), order + BEHIND + 1)) kept.add(near);
  if (!kept.size) return '';
  const inCapitals = words.filter((at) => ALL_CAPITALS.test(tokens[at] ?? ''));
  const inOthers = words.find((at) => !inCapitals.includes(at));
  if (inCapitals[0] !== undefined && inOthers !== undefined) kept.add(inCapitals[0]).add(inOthers);
  return tokens.filter((token, at) => kept.has(at) || /[!?]/.test(token) || /^but\b/i.test(token)).join(' ');
}

/** Whether enough of the commonest English words stand in a text for VADER's English word list to mean anything. */
function isEnglish(text: string): boolean {
  const words = text.toLowerCase().match(/[a-zà-ÿ']+/g) ?? [];
  return words.length > 0 && words.filter((word) => ENGLISH.has(word)).length / words.length >= 0.12;
}

/**
 * The tone of a text: the mean of the VADER scores of its first twenty-four sentences, courtesy left out.
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
    .map(withMood)
    .filter(Boolean)
    .map(compoundOf)
    .filter((score) => score !== 0);
  if (!scores.length) return 'neutral';
  const mean = scores.reduce((sum, one) => sum + one, 0) / scores.length;
  return mean >= FROM ? 'positive' : mean <= -FROM ? 'negative' : 'neutral';
}
