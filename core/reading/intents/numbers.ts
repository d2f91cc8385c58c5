import { flatten } from './dateWords';
import numbers from '../lexicon/numbers.json';
import { plainFigure, readFigure, SCALE } from './figures';

/** Number words as people write them: the numbers themselves, their genders, and what stands for one. */
const WORDS: Readonly<Record<string, number>> = {
  ...numbers,
  // As they stand in flat text, too.
  ...Object.fromEntries(Object.entries(numbers).map(([word, value]) => [flatten(word), value])),
  ...{ a: 1, an: 1, ein: 1, eine: 1, einen: 1, une: 1, uma: 1, een: 1, duas: 2 },
  ...{ couple: 2, pair: 2, dozen: 12, hundred: 100, thousand: 1000 },
  // What the languages of the south make of ten, twelve, fifteen, twenty …: about so many.
  ...{
    dizaine: 10,
    douzaine: 12,
    quinzaine: 15,
    vingtaine: 20,
    trentaine: 30,
    quarantaine: 40,
    cinquantaine: 50,
    centaine: 100,
  },
  ...{
    decena: 10,
    docena: 12,
    veintena: 20,
    centenar: 100,
    dezena: 10,
    duzia: 12,
    dúzia: 12,
    centena: 100,
    decina: 10,
    dozzina: 12,
    ventina: 20,
    trentina: 30,
  },
  ...{ dutzend: 12, dozijn: 12, tiental: 10, dussin: 12, dusin: 12 },
};

/** Alternation of the number words for a pattern, longest first. `a` and `an` are left to the caller. */
export const NUMBER_WORDS = Object.keys(WORDS)
  .filter((word) => word.length > 2)
  .sort((a, b) => b.length - a.length)
  .join('|');

/** Whether a word is said in counting or in a telephone number. */
export const isSpokenNumber = (word: string): boolean =>
  isNumberWord(word) || /^(?:oh|zero|null|nul|double|triple)$/.test(word);

/** Whether a word is one of the number words of a pattern. */
export const isNumberWord = (word: string): boolean =>
  word.length > 2 && (Object.hasOwn(WORDS, word) || thousands(word) !== null);

/** "diciottomila", "zwanzigtausend": so many thousand in one word; null for any other. */
function thousands(word: string): number | null {
  const base = WORDS[/^(\p{L}{2,})(?:mila|tausend|duizend|tusen|tusind)$/u.exec(word)?.[1] ?? ''];
  return base === undefined ? null : base * 1000;
}

/** "four hundred and twenty", "seven and a half": what English speakers say; null for anything else. */
function spokenNumber(text: string): number | null {
  const words = text.split(/[\s-]+/);
  if (words.length < 2 || words.length > 9) return null;
  let [total, part, isNumber] = [0, 0, false];
  for (const [at, word] of words.entries()) {
    if (word === 'and' || (word === 'a' && words[at + 1] === 'half')) continue;
    const value = WORDS[word];
    if (word === 'hundred') part = (part || 1) * 100;
    else if (word === 'thousand') [total, part] = [total + (part || 1) * 1000, 0];
    else if (word === 'half' && words[at - 1] === 'a') part += 0.5;
    // Twenty-one, and not one twenty.
    else if (value !== undefined && value < 100 && (part % 100 === 0 || (part % 10 === 0 && value < 10)))
      part += value;
    else return null;
    isNumber = true;
  }
  return isNumber ? total + part : null;
}

/**
 * Reads a written number: `40,000`, `40.000`, `40 000`, `12.500,50`, `1,250.5`, `40k`, `eight`, `half a dozen`.
 * @returns the number, or null when the text is none
 */
export function readNumber(text: string): number | null {
  const clean = plainFigure(text);
  if (clean === 'half a dozen') return 6;
  if (clean === 'half a million') return 500_000;
  const word = clean.replace(/^(?:a|an) (?=dozen|couple|pair|hundred|thousand)/, '').replace(/ of$/, '');
  if (WORDS[word] !== undefined) return WORDS[word] ?? null;
  const inOneWord = thousands(word);
  if (inOneWord !== null) return inOneWord;
  const spoken = spokenNumber(word);
  if (spoken !== null) return spoken;
  const pair = /^(\p{L}+)[- ](\p{L}+)$/u.exec(word);
  const [tens, ones] = [WORDS[pair?.[1] ?? ''], WORDS[pair?.[2] ?? '']];
  if (tens && ones) {
    if (ones === 100) return tens * 100;
    if (tens >= 20 && ones < 10) return tens + ones;
    if (ones === 12) return tens * 12;
  }
  const scaledWord = /^(\p{L}+(?:[- ]\p{L}+)?)\s(thousand|million|mil|mille|tausend)$/u.exec(word);
  if (scaledWord?.[1] && scaledWord[2]) {
    const base = readNumber(scaledWord[1]);
    return base === null ? null : base * (SCALE[scaledWord[2]] ?? 1);
  }
  return readFigure(clean);
}
