import { fold } from '../../people/text';
import names from './names.json';

interface Names {
  given: ReadonlySet<string>;
  family: ReadonlySet<string>;
}
let known: Names | null = null;
const setOf = (words: string): Set<string> => new Set(words.split(' ').map(fold));
const load = (): Names => (known ??= { given: setOf(names.given), family: setOf(names.family) });

/** Given names that are words as well: alone, or without a capital, they are not taken for names. */
const WORDS = new Set(
  'will may june april august bill grant art rose hope faith grace joy dawn summer sunny price drew chase frank king major prince judge dean earl guy don van per max pat mark mai flor luz sue'.split(
    ' ',
  ),
);

/** How surely a word is somebody's given name: 2 for one that is nothing else, 1 for one that is a word as well, else 0. */
export function givenName(word: string): 0 | 1 | 2 {
  const [first = ''] = fold(word).split(' ');
  if (!load().given.has(first)) return 0;
  return WORDS.has(first) ? 1 : 2;
}

/** Whether a word is somebody's family name in one of the countries we have lists of. */
export const isFamilyName = (word: string): boolean => {
  const folded = fold(word);
  return load().family.has(folded) || folded.split(' ').some((part) => load().family.has(part));
};
