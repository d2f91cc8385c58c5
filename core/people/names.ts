import { alternatives } from '../words/compile';
import { fold, spelt, squash, tidy } from './text';

export interface PersonName {
  fullName: string;
  givenName: string;
  familyName: string;
}

const BEFORE = new RegExp(
  String.raw`^(?:(?:i\.\s?[av]\.|p\.\s?p\.|ppa\.)\s*|(?:${alternatives('honorific')})(?:[.ªº]+(?:\s*-?\s*(?:ing|inf|kfm|med|rer|nat|phil|oec|pol|jur|habil|h\.?c|wirt|techn)\.?)*|\s))\s*`,
  'iu',
);
const AFTER = new RegExp(String.raw`[,\s]+\(?(?:${alternatives('postNominal')})\)?$`, 'iu');
const PRONOUNS =
  /\s*[([](?:she|he|they|sie|er|elle|il|ela|ele|hij|zij)\s*\/\s*\p{L}+(?:\s*\/\s*\p{L}+)?[)\]]\s*/giu;
const PARTICLES = new Set(
  'van von der den de del della di da do dos das du des la le el al bin ibn ben ter ten zu zur af av y e i vande vander st'.split(
    ' ',
  ),
);

/** Removes titles before and after a name, pronouns in brackets, quotes and outer punctuation. */
export function stripTitles(text: string): string {
  let name = tidy(text.replace(PRONOUNS, ' ')).replace(/^["'“”‘’\s,;:]+|["“”‘\s,;:]+$/g, '');
  for (let round = 0; round < 4; round++) {
    const shorter = name.replace(BEFORE, '').replace(AFTER, '').trim();
    if (shorter === name || shorter.length < 2) break;
    name = shorter;
  }
  return name;
}

const isCaps = (word: string): boolean => /\p{Lu}{2}/u.test(word) && word === word.toUpperCase();

function capitalise(word: string): string {
  return word
    .toLowerCase()
    .replace(/(^|[-'’])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/^Mc(\p{L})/u, (_, letter: string) => `Mc${letter.toUpperCase()}`);
}

/** Gives a name the casing people use: ALL CAPS and all lower case are set, mixed case is left alone. */
export function setCase(name: string): string {
  const words = name.split(' ');
  const shouting = words.every((word) => isCaps(word) || word.length < 2 || /^\p{Lu}\.?$/u.test(word));
  const whispering = name === name.toLowerCase();
  return words
    .map((word, index) => {
      if (
        index > 0 &&
        PARTICLES.has(word.toLowerCase()) &&
        (shouting || whispering || word === word.toLowerCase())
      )
        return word.toLowerCase();
      if (shouting || whispering) return capitalise(word);
      return isCaps(word) && word.length > 3 ? capitalise(word) : word;
    })
    .join(' ');
}

/**
 * Parses a written personal name: `Family, Given`, `FAMILY Given`, titles before and after, capitals.
 * @param text the name as written
 * @returns full name as spoken (given name first) with its two halves; empty strings when there is none
 */
export function parseName(text: string): PersonName {
  let name = stripTitles(text.replace(/\s*\([^)]*\)\s*/g, ' '));
  const comma = /^([^,]+),\s*([^,]+)$/u.exec(name);
  let given: string;
  let family: string;
  if (comma?.[1] && comma[2] && comma[1].split(' ').length <= 3) {
    family = comma[1].trim();
    given = stripTitles(comma[2]);
  } else {
    const words = name.split(' ');
    const leading = words.findIndex((word) => !(isCaps(word) && word.length > 1));
    if (leading > 0 && leading < words.length && !PARTICLES.has((words[leading] ?? '').toLowerCase())) {
      family = words.slice(0, leading).join(' ');
      given = words.slice(leading).join(' ');
    } else {
      let at = words.length - 1;
      while (at > 1 && PARTICLES.has((words[at - 1] ?? '').toLowerCase())) at--;
      given = words.slice(0, at).join(' ');
      family = words.slice(at).join(' ');
      if (words.length === 1) [given, family] = [family, ''];
    }
  }
  if (family && family === family.toUpperCase() && given !== given.toUpperCase()) family = setCase(family);
  name = setCase(tidy(`${given} ${family}`));
  const familyLength = family ? family.split(' ').length : 0;
  const cased = name.split(' ');
  return {
    fullName: name,
    givenName: cased.slice(0, cased.length - familyLength).join(' '),
    familyName: cased.slice(cased.length - familyLength).join(' '),
  };
}

/** The key under which the same name is found however it is written: folded words in alphabetical order. */
export function nameKey(fullName: string): string {
  return fold(stripTitles(fullName)).split(' ').sort().join(' ');
}

const ROLE_WORDS = new Set(
  `info sales office contact hello admin support service team hi mail enquiries inquiries orders order accounts
  billing noreply no reply kontakt verkauf vertrieb buero ventas comercial geral administracao compras achats accueil
  einkauf inkoop purchasing procurement marketing reception desk help helpdesk web website shop store notifications
  notification newsletter post bestellung empfang secretariat secretaria department dept group mailer daemon system
  postmaster webmaster`.split(/\s+/),
);

/** Whether a display name or local part belongs to a function ("Sales team", "info") and not to a person. */
export function isRoleName(text: string): boolean {
  const words = fold(text).split(' ');
  return (
    words.every((word) => ROLE_WORDS.has(word)) || (words.length <= 3 && ROLE_WORDS.has(words.at(-1) ?? ''))
  );
}

/** Whether the text has the shape of a personal name: one to five words of letters, capitalised or all capitals. */
export function looksLikeName(text: string): boolean {
  const name = stripTitles(text);
  const words = name.replace(',', '').split(' ');
  if (words.length > 5 || name.length > 48 || name.length < 2 || /[\d@/:;!?&|_]/.test(name)) return false;
  return (
    words.every((word) => PARTICLES.has(word) || /^\p{Lu}[\p{L}'’.-]*$/u.test(word)) && /^\p{L}/u.test(name)
  );
}

/** A name guessed from a local part such as `ines.duarte` or `ines_duarte2`; empty when the part gives none. */
export function nameFromLocalPart(localPart: string): string {
  const words = (localPart.split('+')[0] ?? '').split(/[._-]+/).map((word) => word.replace(/\d+$/, ''));
  if (words.length < 2 || words.length > 3 || words.some((word) => !/^\p{L}{2,}$/u.test(word))) return '';
  if (words.some((word) => ROLE_WORDS.has(word.toLowerCase()))) return '';
  return words.map(capitalise).join(' ');
}

/** Share of the words of the shorter name (0 to 1) that the other has too; initials count a half. */
export function nameOverlap(a: string, b: string): number {
  const left = fold(stripTitles(a)).split(' ').filter(Boolean);
  const right = fold(stripTitles(b)).split(' ').filter(Boolean);
  const [few, many] = left.length <= right.length ? [left, right] : [right, left];
  if (!few.length) return 0;
  const score = few.reduce((sum, word) => {
    if (many.includes(word)) return sum + 1;
    return many.some((other) => other[0] === word[0] && (word.length === 1 || other.length === 1))
      ? sum + 0.5
      : sum;
  }, 0);
  return score / few.length;
}

/** Whether a local part is the whole name in one of the ways people make addresses: `jmontes`, `javier.montes`, `montesj`. */
export const spellsLocalPart = (name: string, localPart: string): boolean =>
  isSpeltIn(name, localPart) || isSpeltIn(spelt(name), localPart);

function isSpeltIn(name: string, localPart: string): boolean {
  const words = fold(stripTitles(name)).split(' ');
  const local = squash(localPart.split('+')[0] ?? '').replace(/\d+$/, '');
  const [given, family] = [words[0] ?? '', words.slice(1).join('')];
  if (!given || !family || local.length < 4) return false;
  return [given + family, given.slice(0, 1) + family, family + given, family + given.slice(0, 1)].includes(
    local,
  );
}

/** Whether a name and a local part belong together: `Ines Duarte` with `iduarte`, `ines.d`, `duarte`. */
export const nameFitsLocalPart = (name: string, localPart: string): boolean =>
  fitsLocalPart(name, localPart) || fitsLocalPart(spelt(name), localPart);

function fitsLocalPart(name: string, localPart: string): boolean {
  const words = fold(stripTitles(name))
    .split(' ')
    .filter((word) => word.length > 1);
  const local = squash(localPart.split('+')[0] ?? '').replace(/\d+$/, '');
  if (!words.length || local.length < 2) return false;
  if (words.some((word) => word.length > 2 && local.includes(word))) return true;
  const initials = words.map((word) => word[0] ?? '').join('');
  return local === initials && local.length > 1;
}
