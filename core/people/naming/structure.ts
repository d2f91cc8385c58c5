import lists from '../../reading/lexicon/names.json';
import { parseName, stripTitles } from '../names';
import { fold } from '../text';
import { partUnspaced } from './kanji';
import { rootsOf } from './nicknames';
import { romanise } from './romanise';
import { scriptOf, type Script } from './scripts';
import { easternKey, spellingKey } from './spelling';

/** One word of a name as it is compared. */
export interface NameWord {
  /** As it is usually written in Latin letters, folded. */
  text: string;
  /** Every way it may be written in Latin letters, folded, the usual one first. */
  spellings: readonly string[];
  /** Under which spellings by other schemes come together. */
  key: string;
  /** Its script, before it was brought into Latin letters. */
  script: Script;
  /** Full names that it may be short for or another form of, as a given name and as a family name (with a dot before them). */
  roots: readonly string[];
  isInitial: boolean;
}

/** A person's name in its parts. */
export interface NameParts {
  /** Given names, the first one first. */
  given: readonly NameWord[];
  /** Family names; particles are not among them. */
  family: readonly NameWord[];
  /** All that the family name is, particles and all, as one word. */
  wholeFamily: string;
  /** `jr`, `sr`, `ii` …; empty where there is none. */
  generation: string;
  /** What a title before the name says of the sex: `m`, `f` or nothing. */
  sex: '' | 'm' | 'f';
}

const GENERATION =
  /(?:^|[\s,(])(jr|junior|jnr|sr|senior|snr|ii|iii|iv|the elder|the younger|père|pere|fils|filho|júnior|neto|hijo|padre|d\.\s?ä|d\.\s?j|st|ml)\b\.?\)?$/iu;
const AS_GENERATION: Record<string, string> = {
  junior: 'jr',
  jnr: 'jr',
  ii: 'jr',
  fils: 'jr',
  filho: 'jr',
  júnior: 'jr',
  hijo: 'jr',
  ml: 'jr',
  'd. j': 'jr',
  'd.j': 'jr',
  'the younger': 'jr',
  senior: 'sr',
  snr: 'sr',
  pere: 'sr',
  père: 'sr',
  padre: 'sr',
  st: 'sr',
  'd. ä': 'sr',
  'd.ä': 'sr',
  'the elder': 'sr',
};
const MALE = /^(?:mr|herr|hr|m|monsieur|sr|señor|senhor|sig|signor|dhr|pan|pán|г-н|κ|κος)\.?\s/iu;
const FEMALE =
  /^(?:mrs|ms|miss|frau|fr|mme|madame|mlle|sra|señora|senhora|dª|d\.ª|sig\.?ra|signora|mevr|mw|pani|paní|г-жа|κα)\.?\s/iu;
/** What stands before a family name and is dropped, joined and moved as people please. */
const PARTICLES = new Set(
  `van von der den de del della di da do dos das du des la le el al bin ibn ben ter ten te zu zur zum af av y e i vande vander vanden
  st san santa dela delos las los o d l abu abou ap ab mac mc van't ould und 't`.split(/\s+/),
);
/** Particles written together with the name: "al-Hakim", "El Masri", "O'Brien", "d'Angelo", "Vandenberg". */
const JOINED = /^(?:al|el|ul|as|ash|an|ar|at|az)-(?=\p{L}{3})/iu;
/** The article of Arabic, which is written with the word. */
const ARTICLE = /^ال(?=\p{Script=Arabic}{3})/u;
const PATRONYMIC = /(?:ович|евич|ич|овна|евна|ична|ovich|evich|ovych|evych|ovna|evna|ivna|yivna)$/iu;

/** What a word may be short for or another form of, in either half of a name. */
export const allRoots = (spellings: readonly string[]): string[] => [
  ...new Set(
    spellings.flatMap((one) => [...rootsOf(one, 'family').map((root) => `.${root}`), ...rootsOf(one)]),
  ),
];

function wordOf(text: string, as: 'given' | 'family'): NameWord | null {
  const bare = text.replace(JOINED, '').replace(ARTICLE, '');
  const script = scriptOf(bare);
  // In the wrong column kanji are read as the other half of the name.
  const spellings =
    script === 'han' ? [...new Set([...romanise(bare, as), ...romanise(bare)])] : romanise(bare, as);
  const [first] = spellings;
  if (!first) return null;
  return {
    text: first,
    spellings,
    key: spellingKey(first),
    script,
    roots: allRoots(spellings),
    isInitial: [...bare].length === 1 && !['han', 'hangul', 'kana'].includes(script),
  };
}

const isParticle = (word: string): boolean => PARTICLES.has(fold(word)) || PARTICLES.has(word.toLowerCase());
const wordsOf = (text: string): string[] => text.split(/[\s·・\-‐–.,]+/u).filter(Boolean);

function partsOf(given: string, family: string): Pick<NameParts, 'given' | 'family' | 'wholeFamily'> {
  const givenWords = wordsOf(given);
  const familyWords = wordsOf(family);
  const first = givenWords.filter(
    (word, at) => !(at > 0 && PATRONYMIC.test(word)) && !(givenWords.length > 1 && isParticle(word)),
  );
  const last = familyWords.filter((word) => !(familyWords.length > 1 && isParticle(word)));
  const made = (list: readonly string[], as: 'given' | 'family'): NameWord[] =>
    list.slice(0, 3).flatMap((word) => wordOf(word, as) ?? []);
  return {
    given: made(first, 'given'),
    family: made(last, 'family'),
    wholeFamily: fold(family).replace(/ /g, ''),
  };
}

let listed: { given: Set<string>; family: Set<string> } | null = null;
/** Whether a folded word is in the lists of family names and not in those of given names. */
function isFamilyOnly(word: string): boolean {
  listed ??= { given: new Set(lists.given.split(' ')), family: new Set(lists.family.split(' ')) };
  return listed.family.has(word) && !listed.given.has(word);
}

/** A whole name in one text, parted into given and family name as its script and marks say. */
function halves(text: string): { given: string; family: string } {
  const words = text.split(/\s+/);
  const script = scriptOf(text);
  if ((script === 'han' || script === 'hangul' || script === 'kana') && !text.includes(',')) {
    if (words.length > 1) return { family: words[0] ?? '', given: words.slice(1).join('') };
    const parted = script === 'kana' ? null : partUnspaced(text);
    return parted ?? { family: '', given: text };
  }
  // "Орлова Зоя Петровна": the patronymic stands after the given name, wherever the family name does.
  if (words.length === 3 && PATRONYMIC.test(words[2] ?? ''))
    return { family: words[0] ?? '', given: words[1] ?? '' };
  const { givenName, familyName } = parseName(text);
  // "María García López": of several words before the last, one that is a family name and no given name begins the family names.
  const before = givenName.split(' ');
  const from = before.findIndex((word, at) => at > 0 && isFamilyOnly(fold(word)));
  return from < 0
    ? { given: givenName, family: familyName }
    : { given: before.slice(0, from).join(' '), family: [...before.slice(from), familyName].join(' ') };
}

/** Names that were parted lately: a verdict holds one against many, and asks of the same ones again. */
const lately = new Map<string, NameParts>();
const REMEMBERED = 2000;

/**
 * A name in its parts, from two columns or from one text: titles and generation apart, particles and patronymics left out,
 * every word brought into Latin letters in all the ways that people do. Family name first is seen by script, by a comma and by
 * capitals; where nothing tells, the halves may still be the wrong way round.
 */
export function structureOf(given: string, family: string): NameParts {
  const name = `${given}\t${family}`;
  let parts = lately.get(name);
  if (!parts) {
    if (lately.size >= REMEMBERED) lately.clear();
    parts = parted(given, family);
    lately.set(name, parts);
  }
  return parts;
}

function parted(given: string, family: string): NameParts {
  const generation = GENERATION.exec(`${given} ${family}`.trim()) ?? GENERATION.exec(given.trim());
  const bare = (text: string): string => {
    const without = text.trim().replace(GENERATION, '');
    return stripTitles(without.trim() || text);
  };
  const titled = `${given.trim()} `;
  const sex = FEMALE.test(titled) ? 'f' : MALE.test(titled) ? 'm' : '';
  let [one, two] = [given.trim() && bare(given), family.trim() && bare(family)];
  if (!two || !one) {
    const whole = one || two;
    const parted = /\s|,/.test(whole) || scriptOf(whole) !== 'latin' ? halves(whole) : null;
    if (parted?.family) [one, two] = [parted.given, parted.family];
  } else if (fold(one) === fold(two) || (fold(one).endsWith(` ${fold(two)}`) && fold(two))) {
    // The whole name in one column and the family name once more in the other.
    const parted = halves(one);
    one = parted.family ? parted.given : one;
  }
  const said = generation?.[1]?.toLowerCase() ?? '';
  return { ...partsOf(one, two), generation: AS_GENERATION[said] ?? said, sex };
}

/** All of a list of words as one, however they are parted: "Jean-Pierre" and "Jeanpierre", "Xiao Ming" and "Xiaoming". */
export const joinedKey = (words: readonly NameWord[]): string =>
  spellingKey(words.map(({ text }) => text).join(''));

/** The same by the coarser key of names of China and Korea. */
export const joinedEasternKey = (words: readonly NameWord[]): string =>
  easternKey(words.map(({ text }) => text).join(''));
