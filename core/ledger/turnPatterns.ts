import { flatten } from '../reading/intents/dateWords';
import { alternatives, type Kind } from '../words/compile';

/** Text as the patterns take it: without accents and capitals, with plain apostrophes and single spaces. */
export const flat = (text: string): string =>
  flatten(text)
    .replace(/[\u2018\u2019]/g, "'")
    .replace(/\s+/g, ' ')
    .trim();

/** The phrases of a kind as one pattern over flat text; in them `~` stands for up to four words. */
export const phrases = (kind: Kind): RegExp =>
  new RegExp(
    `(?<![\\p{L}\\p{N}])(?:${alternatives(kind).replace(/~/g, "(?:[\\p{L}\\p{N}'-]+ ){0,4}?")})(?![\\p{L}\\p{N}])`,
    'u',
  );

const CONDITION = new RegExp(`(?<![\\p{L}])(?:${alternatives('condition')})(?![\\p{L}]).*$`, 'u');

/** What a sentence says for certain: without what hangs on a condition. */
export const certain = (flatText: string): string => flatText.replace(CONDITION, '');
