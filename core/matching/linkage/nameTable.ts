import { doubleMetaphone } from 'double-metaphone';
import { fold, squash } from '../../people/text';
import {
  joinedEasternKey,
  joinedKey,
  structureOf,
  allRoots,
  type NameParts,
  type NameWord,
} from '../../people/naming/structure';
import { isEasternFamily } from '../../people/naming/nicknames';
import { consonantsOf, easternKey, spellingKey } from '../../people/naming/spelling';
import { shared, type Dictionary } from './strings';

/** So many spellings, and so many full names it may be short for, are kept of a word; and so many words of a half of a name. */
export const SPELLINGS = 5;
export const ROOTS = 4;
export const WORDS = 3;

/** Every word of a name once, and every name once, as numbers; 0 is nothing. */
export interface NameTable {
  /** Of each word its spellings, `SPELLINGS` a word, as numbers of strings, the usual one first. */
  spellings: Int32Array;
  /** Of each word the keys of those, in the same places. */
  keys: Int32Array;
  /** Of each word what it may be short for, `ROOTS` a word. */
  roots: Int32Array;
  /** Of each word its consonants, where it is or may be of a script that writes no vowels. */
  bones: Int32Array;
  /** Of each word its key among names of China and Korea. */
  eastern: Int32Array;
  /** Of each word how it sounds (Double Metaphone of its usual spelling). */
  sounds: Int32Array;
  /** What each word is: flags of `IS`. */
  is: Uint8Array;
  /** Of each name its words, `WORDS` given names and as many family names. */
  words: Int32Array;
  /**
   * Of each name all given names as one, by key and by eastern key, all family names as one by both, and the whole family name,
   * particles and all.
   */
  joined: Int32Array;
  /** Of each name its generation and the sex its title tells: numbers that are the same for the same. */
  marks: Uint8Array;
  /** Of each row its name. */
  of: Int32Array;
  /** In how many rows a word stands as a given name (even places) and as a family name (odd places), by key. */
  counts: Uint32Array;
  /** In how many rows a given name and a family name begin with a letter, by string number of the letter. */
  initialCounts: Uint32Array;
}
export const IS = { initial: 1, eastern: 2, arabic: 4 } as const;
export const JOINED = 5;

const GENERATIONS = new Map([
  ['jr', 1],
  ['sr', 2],
  ['iii', 3],
  ['iv', 4],
]);

const sounds = new Map<string, string>();
const REMEMBERED = 50_000;
/** How a word sounds, of words that come again and again worked out once. */
function soundOf(word: string): string {
  let sound = sounds.get(word);
  if (sound === undefined) {
    if (sounds.size >= REMEMBERED) sounds.clear();
    [sound = ''] = doubleMetaphone(word);
    sounds.set(word, sound);
  }
  return sound;
}

/** A number for a text, 0 for none: there are as many texts as names, and they are only held against each other (FNV-1a). */
function hashOf(text: string): number {
  if (!text) return 0;
  let hash = 0x811c9dc5;
  for (let at = 0; at < text.length; at++) hash = Math.imul(hash ^ text.charCodeAt(at), 0x01000193);
  return hash | 1;
}

/** Collects names row by row. */
export class NameBuilder {
  private readonly wordIds = new Map<string, number>();
  private readonly nameIds = new Map<string, number>();
  private readonly words: {
    spellings: number[];
    keys: number[];
    roots: number[];
    bones: number;
    eastern: number;
    sound: number;
    is: number;
  }[] = [{ spellings: [], keys: [], roots: [], bones: 0, eastern: 0, sound: 0, is: 0 }];
  private readonly names: { words: number[]; joined: number[]; marks: [number, number] }[] = [
    { words: [], joined: [], marks: [0, 0] },
  ];
  private readonly rows: number[] = [];

  constructor(private readonly dictionary: Dictionary) {}

  add(given: string, family: string, email: string): void {
    const cached = `${given}\t${family}\t${!given || !family ? email : ''}`;
    let id = this.nameIds.get(cached);
    if (id === undefined) {
      id = given || family ? this.make(withMail(structureOf(given, family), email)) : 0;
      this.nameIds.set(cached, id);
    }
    this.rows.push(id);
  }

  private make(parts: NameParts): number {
    const isEastern = [...parts.family, ...parts.given].some(
      (word) => ['han', 'hangul'].includes(word.script) || isEasternFamily(word.text),
    );
    const list = (words: readonly NameWord[], as: string): number[] =>
      Array.from({ length: WORDS }, (_, at) => (words[at] ? this.wordId(words[at], as, isEastern) : 0));
    this.names.push({
      words: [...list(parts.given, 'g'), ...list(parts.family, 'f')],
      joined: [
        hashOf(parts.given.length ? `=${joinedKey(parts.given)}` : ''),
        hashOf(isEastern && parts.given.length ? `&${joinedEasternKey(parts.given)}` : ''),
        hashOf(parts.family.length ? `=${joinedKey(parts.family)}` : ''),
        hashOf(isEastern && parts.family.length ? `&${joinedEasternKey(parts.family)}` : ''),
        hashOf(parts.wholeFamily ? `=${spellingKey(parts.wholeFamily)}` : ''),
      ],
      marks: [GENERATIONS.get(parts.generation) ?? 0, parts.sex === 'f' ? 1 : parts.sex === 'm' ? 2 : 0],
    });
    return this.names.length - 1;
  }

  private wordId(word: NameWord, as: string, isEastern: boolean): number {
    const cached = `${as}${isEastern ? '!' : ''}${word.script}${word.spellings.join(' ')}`;
    const known = this.wordIds.get(cached);
    if (known !== undefined) return known;
    const add = (text: string): number => this.dictionary.add(text);
    const spellings = word.spellings.slice(0, SPELLINGS);
    const isArabic = word.script === 'arabic';
    this.words.push({
      spellings: spellings.map(add),
      keys: spellings.map((one) => add(`=${spellingKey(one)}`)),
      roots: word.roots.slice(0, ROOTS).map((root) => add(`^${root}`)),
      bones: add(`|${consonantsOf(word.text)}`),
      eastern: add(isEastern ? `&${easternKey(word.text)}` : ''),
      sound: add(`*${soundOf(word.text)}`),
      is: (word.isInitial ? IS.initial : 0) | (isEastern ? IS.eastern : 0) | (isArabic ? IS.arabic : 0),
    });
    this.wordIds.set(cached, this.words.length - 1);
    return this.words.length - 1;
  }

  finish(): NameTable {
    const { words, names } = this;
    const wide = (lists: readonly (readonly number[])[], width: number): Int32Array => {
      const all = shared(Int32Array, lists.length * width);
      for (const [at, list] of lists.entries()) all.set(list.slice(0, width), at * width);
      return all;
    };
    const table = {
      spellings: wide(
        words.map((one) => one.spellings),
        SPELLINGS,
      ),
      keys: wide(
        words.map((one) => one.keys),
        SPELLINGS,
      ),
      roots: wide(
        words.map((one) => one.roots),
        ROOTS,
      ),
      bones: wide(
        words.map((one) => [one.bones]),
        1,
      ),
      eastern: wide(
        words.map((one) => [one.eastern]),
        1,
      ),
      sounds: wide(
        words.map((one) => [one.sound]),
        1,
      ),
      words: wide(
        names.map((one) => one.words),
        2 * WORDS,
      ),
      joined: wide(
        names.map((one) => one.joined),
        JOINED,
      ),
    };
    const is = shared(Uint8Array, words.length);
    is.set(words.map((one) => one.is));
    const marks = shared(Uint8Array, 2 * names.length);
    for (const [at, one] of names.entries()) marks.set(one.marks, 2 * at);
    const of = shared(Int32Array, this.rows.length);
    of.set(this.rows);
    return { ...table, is, marks, of, ...this.counted(table.keys, table.words) };
  }

  /** How often words stand in the rows. */
  private counted(keys: Int32Array, words: Int32Array): Pick<NameTable, 'counts' | 'initialCounts'> {
    const size = this.dictionary.size;
    const counts = shared(Uint32Array, 2 * size);
    const letterOf = (word: number): number =>
      this.dictionary.textOf(this.words[word]?.spellings[0] ?? 0).charCodeAt(0) || 0;
    const initialCounts = shared(
      Uint32Array,
      2 * (1 + this.words.reduce((most, _, word) => Math.max(most, letterOf(word)), 0)),
    );
    const more = (list: Uint32Array, at: number): void => {
      list[at] = (list[at] ?? 0) + 1;
    };
    for (const name of this.rows)
      for (let at = 0; at < 2 * WORDS; at++) {
        const word = words[name * 2 * WORDS + at] ?? 0;
        if (!word) continue;
        const isFamily = at >= WORDS ? 1 : 0;
        for (const key of new Set(keys.subarray(word * SPELLINGS, (word + 1) * SPELLINGS)))
          if (key) more(counts, 2 * key + isFamily);
        const letter = letterOf(word);
        if (at % WORDS === 0) more(initialCounts, 2 * letter + isFamily);
      }
    return { counts, initialCounts };
  }
}

/** What a row's own address says of a name that is only half there: "zoya.orlova@" of Zoya. */
function withMail(parts: NameParts, email: string): NameParts {
  const local = /^([\p{L}._-]+)\d*@/u.exec(email)?.[1];
  if (!local || (parts.given.length && parts.family.length && !parts.given.every((one) => one.isInitial)))
    return parts;
  const word = (text: string): NameWord => ({
    text,
    spellings: [text],
    key: spellingKey(text),
    script: 'latin',
    roots: allRoots([text]),
    isInitial: false,
  });
  const pieces = local
    .split(/[._-]+/)
    .map(fold)
    .filter(Boolean);
  const fits = (piece: string, words: readonly NameWord[]): boolean =>
    words.some(
      ({ spellings, key }) =>
        spellings.includes(piece) ||
        key === spellingKey(piece) ||
        (piece.length === 1 && spellings[0]?.[0] === piece),
    );
  if (pieces.length === 2) {
    const [one = '', two = ''] = pieces;
    if (!parts.family.length) {
      const rest = fits(one, parts.given) ? two : fits(two, parts.given) ? one : '';
      return rest.length > 2 ? { ...parts, family: [word(rest)] } : parts;
    }
    const rest = fits(one, parts.family) ? two : fits(two, parts.family) ? one : '';
    if (rest.length > 2 && (!parts.given.length || parts.given[0]?.text === rest[0]))
      return { ...parts, given: [word(rest)] };
    return parts;
  }
  const whole = squash(local);
  if (!parts.family.length)
    for (const spelling of parts.given.flatMap(({ spellings }) => spellings))
      if (spelling.length > 2 && whole.startsWith(spelling) && whole.length > spelling.length + 2)
        return { ...parts, family: [word(whole.slice(spelling.length))] };
  return parts;
}
