import { fold } from '../../people/text';
import { readNumber } from '../intents/numbers';
import { frenchNumbers, type Dictated } from './frenchPairs';

const NOUGHTS = new Set('zero oh o nought null nul zéro cero nulla noll'.split(' ').map(fold));
const TIMES: Readonly<Record<string, number>> = {
  double: 2,
  triple: 3,
  treble: 3,
  doppel: 2,
  doble: 2,
  dubbel: 2,
};
const WORD = /[\p{L}\p{M}]+(?:-[\p{L}\p{M}]+)*|[,;.–—-]|\d+/gu;
/** A national number has no fewer and an international one no more (ITU-T E.164). */
const [FEWEST, MOST] = [7, 15];
/** So many digits of a count that is said right behind a number: "… three five six, twelve trailers". */
const AFTER = 4;

const HUNDRED = /^(?:hundred|hundert|cent|cien|honderd|hundra|hundrede)$/i;

/** What one word says: a digit, or a number below a hundred as the French say theirs; null for any other word. */
function spoken(word: string): string | null {
  const folded = fold(word);
  if (NOUGHTS.has(folded)) return '0';
  const number = readNumber(word.toLowerCase());
  return number !== null && Number.isInteger(number) && number >= 0 && number < 100 && !/\d/.test(word)
    ? String(number)
    : null;
}

/** The numbers that a note spells out: "two one two, five five five, oh one eight eight", "double oh four four". */
export function dictatedNumbers(text: string): Dictated[] {
  const inPairs = frenchNumbers(text);
  if (inPairs.length) return inPairs;
  const found: Dictated[] = [];
  let run: (Dictated & { shorter: { digits: string; end: number }[] }) | null = null;
  let times = 1;
  let hundreds = '';
  const end = (): void => {
    if (run && run.digits.length >= FEWEST && run.digits.length <= MOST + AFTER) found.push(run);
    run = null;
    times = 1;
    hundreds = '';
  };
  for (const match of text.matchAll(WORD)) {
    const [word] = match;
    if (/^[,–—-]$/.test(word)) continue;
    const repeated = TIMES[fold(word)];
    if (repeated) {
      times = repeated;
      continue;
    }
    // "Nine hundred one two three": the figure stands already, if others follow.
    if (run && HUNDRED.test(word)) {
      hundreds = '00';
      continue;
    }
    const said = spoken(word);
    if (said === null || /^(?:an?|ein|une?|um|uma|een|en)$/i.test(word)) {
      end();
      continue;
    }
    run ??= { digits: '', start: match.index, end: match.index, shorter: [] };
    if (run.digits.length >= FEWEST) run.shorter.unshift({ digits: run.digits, end: run.end });
    run.digits += hundreds + said.repeat(times);
    hundreds = '';
    run.end = match.index + word.length;
    times = 1;
  }
  end();
  return found;
}
