import { alternatives, wordsOf } from '../../words/compile';
import { companyLikeness, LEGAL_FORM } from '../../people/companies';
import { fold } from '../../people/text';
import { monthOf, RELATIVE, weekdayOf } from '../intents/dateWords';
import { readNumber } from '../intents/numbers';
import { isCommonWord } from '../lexicon/common';
import { givenName, isFamilyName } from '../lexicon/names';
import { titleLikeness } from '../signature/words';
import type { Token } from './tokens';

const PARTICLE = /^(?:van|von|de|der|den|da|do|dos|das|di|del|della|la|le|du|des|bin|ben|ter|ten|zu|af|av)$/;
const AT = /^(?:from|at|of|with|for|bei|beim|vom|aus|chez|bij|hos|fra|från|presso|w|i|på|z|od)$/;
const JOINS = /^(?:&|\+|and|und|et|e|y|en|og|och|i)$/;
const HONORIFIC = new RegExp(String.raw`^(?:${alternatives('honorific')})\.?$`, 'iu');
const DEPARTMENTS = new Set(wordsOf('department').map(fold));

const shapeOf = (text: string): string => {
  if (text === '\n') return 'line';
  if (text.includes('@')) return 'mail';
  if (/^[+(]?\d/.test(text)) return text.replace(/\D/g, '').length >= 7 ? 'phone' : 'number';
  if (!/\p{L}/u.test(text)) return `mark${text}`;
  if (/^\p{Lu}[\p{Lu}'’.&-]+$/u.test(text)) return 'XX';
  if (/^\p{Lu}\.?$/u.test(text)) return 'X';
  return /^\p{Lu}/u.test(text) ? 'Xx' : 'x';
};

/** What is known of a word by itself: which lists it is in, and what it looks like. */
function classesOf(text: string, folded: string): string[] {
  const shape = shapeOf(text);
  const classes = [shape];
  if (!/^(?:X|x)/.test(shape)) return classes;
  const given = givenName(folded);
  if (given) classes.push(given === 2 ? 'given' : 'given?');
  if (isFamilyName(folded)) classes.push('family');
  if (titleLikeness(folded) > 0) classes.push('title');
  if (LEGAL_FORM.test(` ${text}`)) classes.push('legal');
  else if (companyLikeness(folded) > 0) classes.push('trade');
  if (PARTICLE.test(folded)) classes.push('particle');
  if (AT.test(folded)) classes.push('at');
  if (JOINS.test(folded)) classes.push('joins');
  if (HONORIFIC.test(text)) classes.push('honorific');
  if (DEPARTMENTS.has(folded)) classes.push('department');
  if (/['’]s$/i.test(text)) classes.push('possessive');
  if (weekdayOf(folded) || monthOf(folded) || RELATIVE[folded] !== undefined) classes.push('when');
  else if (readNumber(folded) !== null) classes.push('number');
  if (classes.length === 1) classes.push(isCommonWord(folded) ? 'common' : 'rare');
  return classes;
}

interface Seen {
  folded: string;
  classes: string[];
  joined: string;
}

const NEAR = 2;
const OUTSIDE: Seen = { folded: '^', classes: ['^'], joined: '^' };
const bucket = (at: number): string => (at < 4 ? String(at) : at < 8 ? '4' : at < 16 ? '8' : '16');

/**
 * What the model goes by for each word of a note: the word, what it looks like and which lists it is in, the same of two words to
 * each side, and where in the note it stands.
 * @param isCounted whether a word is frequent enough to stand for itself; names are not, so that new ones are read as well
 * @returns for each token the names of its features
 */
export function featuresOf(tokens: readonly Token[], isCounted: (word: string) => boolean): string[][] {
  const isLowered = !tokens.some((token) => /\p{Lu}/u.test(token.text));
  const seen = tokens.map((token): Seen => {
    const folded = fold(token.text) || token.text;
    const classes = classesOf(token.text, folded);
    return { folded, classes, joined: classes.join('+') };
  });
  const around = (at: number): Seen => seen[at] ?? OUTSIDE;
  return seen.map((one, at) => {
    const features = ['bias', `at=${bucket(at)}`, isLowered ? 'lowered' : 'cased'];
    for (let by = -NEAR; by <= NEAR; by++) {
      const near = around(at + by);
      for (const name of near.classes) features.push(`c${by}=${name}`);
      if (isCounted(near.folded)) features.push(`w${by}=${near.folded}`);
    }
    const [before, after] = [around(at - 1), around(at + 1)];
    features.push(
      `j=${one.joined}${isLowered ? '/' : ''}`,
      `j-=${before.joined},${one.joined}`,
      `j+=${one.joined},${after.joined}`,
      `j-+=${before.joined},${one.joined},${after.joined}`,
      `j--=${around(at - 2).joined},${before.joined},${one.joined}`,
      `j++=${one.joined},${after.joined},${around(at + 2).joined}`,
      `at,j=${bucket(at)},${one.joined}`,
    );
    if (one.joined.startsWith('x') || one.joined.startsWith('X'))
      features.push(`end=${one.folded.slice(-3)}`);
    if (seen.slice(0, at).some((other) => other.folded === one.folded && one.folded.length > 3))
      features.push('again');
    return features;
  });
}
