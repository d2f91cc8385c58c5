/** Letters that Unicode decomposition leaves alone but people type without. */
const LETTERS: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ł: 'l',
  ı: 'i',
};

/** Most text is: it needs no tables of Unicode. */
const isAscii = (text: string): boolean => !/[^\0-\x7f]/.test(text);

/** Diacritics; the voicing marks of kana make another letter, and stay. */
const MARKS = /(?:(?![\u3099\u309a])\p{M})+/gu;

/**
 * Folds text for comparison: lower case, no diacritics, only letters, digits and single spaces.
 * @param text any text
 * @returns the folded text, possibly empty
 */
export function fold(text: string): string {
  if (isAscii(text))
    return text
      .toLowerCase()
      .replace(/['`]/g, '')
      .replace(/[^a-z0-9]+/g, ' ')
      .trim();
  return text
    .normalize('NFKD')
    .replace(MARKS, '')
    .normalize('NFC')
    .toLowerCase()
    .replace(/[ßæœøđðþłı]/g, (letter) => LETTERS[letter] ?? letter)
    .replace(/['’`´]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** A function of a text that is asked of the same text several times in a row, and works it out once. */
export function rememberingLast<T>(of: (text: string) => T): (text: string) => T {
  let last: { text: string; is: T } | null = null;
  return (text) => {
    if (last?.text !== text) last = { text, is: of(text) };
    return last.is;
  };
}

/** Folds and removes the spaces as well: the form in which names and domain labels can be compared. */
export function squash(text: string): string {
  return fold(text).replace(/ /g, '');
}

const SPELT: Record<string, string> = { ä: 'ae', ö: 'oe', ü: 'ue', ß: 'ss', ø: 'oe', å: 'aa', æ: 'ae' };

/** The text as it is spelt where letters with marks cannot stand, as in addresses: `Kühn` is `Kuehn`. */
export const spelt = (text: string): string =>
  text
    .normalize('NFC')
    .toLowerCase()
    .replace(/[äöüßøåæ]/g, (letter) => SPELT[letter] ?? letter);

/**
 * Characters that turn the order of those around them, so that a name or a file reads as another (Unicode UAX 9 §2:
 * embeddings, overrides, isolates and marks).
 */
const TURNS = /[\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

/** The same text with each of them shown as the replacement character; every offset stays. */
export const withoutTurns = (text: string): string => text.replace(TURNS, '\ufffd');

/** Collapses runs of white space (line breaks included) to one space and trims; what turns the order of letters is left out. */
export function tidy(text: string): string {
  return text.replace(TURNS, '').replace(/\s+/g, ' ').trim();
}
