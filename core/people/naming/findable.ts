import anyAscii from 'any-ascii';
import { fold } from '../text';
import { partUnspaced } from './kanji';
import { formsOf } from './nicknames';
import { romanise } from './romanise';
import { scriptOf } from './scripts';
import { consonantsOf, spellingKey } from './spelling';

/** In a name they are as often е as ё, which most people write without its marks. */
const MOST_YO = 2;
/** Arabic is written without its short vowels: what is left of a name once they are taken out, and enough of it to go by. */
const [CONSONANTS, FEWEST_CONSONANTS] = ['~', 3];

/** What has more letters is no word of a name, and its spellings would be too long for an index. */
const LONGEST = 40;

const distinct = (list: readonly string[]): string[] => [
  ...new Set(list.map((text) => text.replace(/\s/g, '')).filter(Boolean)),
];

/** A Latin word with marks spelt out as two letters, without them: "mueller" is "muller", and "semyonov" is "semenov". */
const unmarked = (word: string): string =>
  word.replace(/(?<![aeiouq])([aou])e(?=[^aeiou])/g, '$1').replace(/(?<=[^aeiou])[yij]o(?=[^aeiou])/g, 'e');

/** A word of Cyrillic as it stands, and with one or two of its е read as ё: "семенов" is Semenov and Semyonov. */
function withYo(word: string): string[] {
  const places = [...word.matchAll(/е/g)].slice(0, MOST_YO).map((match) => match.index);
  return [word, ...places.map((at) => `${word.slice(0, at)}ё${word.slice(at + 1)}`)];
}

/** Names of China, Korea and Japan stand in one word: its halves, and the syllables of the second. */
function eastern(word: string): string[] {
  const parts = partUnspaced(word);
  const whole = romanise(word);
  if (!parts) return whole;
  const syllables = [...parts.given].flatMap((letter) =>
    scriptOf(letter) === 'hangul' ? romanise(letter) : [fold(anyAscii(letter))],
  );
  return [
    ...whole,
    ...romanise(parts.family, 'family'),
    ...romanise(parts.given, 'given'),
    ...(parts.given.length > 1 ? syllables : []),
  ];
}

/** How a folded word of a name may be written in Latin letters. */
function latinForms(word: string): string[] {
  const script = scriptOf(word);
  if (script === 'latin') return distinct([word, unmarked(word)]);
  if (script === 'cyrillic') return distinct(withYo(word).flatMap((one) => romanise(one)));
  return distinct(script === 'han' || script === 'hangul' ? eastern(word) : romanise(word));
}

function consonants(word: string): string[] {
  const left = consonantsOf(word);
  return left.length < FEWEST_CONSONANTS ? [] : [CONSONANTS + left];
}

/**
 * What a word of a record can be found under besides its own beginning: how it is written in Latin letters, where it is not,
 * and the keys of its spellings.
 * @param word one folded word
 */
export function spellingsOf(word: string): string[] {
  if (word.length > LONGEST) return [];
  const forms = latinForms(word);
  const script = scriptOf(word);
  return distinct([
    ...(script === 'latin' ? [] : forms),
    ...(script === 'arabic' ? forms.flatMap(consonants) : []),
    ...forms.map(spellingKey),
  ]);
}

/** What is looked up for a word that was typed. */
export interface SoughtSpellings {
  /** Spellings of the same name, which the other word has as a whole. */
  whole: string[];
  /** Spellings of what it may be short for, and of its other forms. */
  forms: string[];
  /** Spellings it begins with; none where too little was typed. */
  beginnings: string[];
}

const LEAST_TYPED = 3;

/**
 * What other words a typed one may stand for: the same name in another script, by another scheme or with its marks spelt
 * out, short for it, or another form of it.
 * @param term one folded word, or the beginning of one
 */
export function soughtSpellings(term: string): SoughtSpellings {
  const script = scriptOf(term);
  const isName = script !== 'latin' || /^\p{L}{2,}$/u.test(term);
  if (!isName || term.length > LONGEST) return { whole: [], forms: [], beginnings: [] };
  const forms = latinForms(term);
  const others = romanise(term).flatMap((form) => [...formsOf(form), ...formsOf(form, 'family')]);
  const whole = distinct([...forms.map(spellingKey), ...(script === 'latin' ? consonants(term) : [])]);
  return {
    whole,
    forms: distinct(others.map(spellingKey)).filter((form) => !whole.includes(form)),
    beginnings:
      script !== 'latin' || term.length < LEAST_TYPED
        ? []
        : distinct([term, ...forms.map(spellingKey)]).filter((form) => form.length >= LEAST_TYPED),
  };
}

/** Words that were typed, with names of China, Korea and Japan parted into family and given name. */
export const partedTerms = (terms: readonly string[]): string[] =>
  terms.flatMap((term) => {
    const script = scriptOf(term);
    const parts = script === 'han' || script === 'hangul' ? partUnspaced(term) : null;
    return parts && term.length > 2 ? [parts.family, parts.given] : [term];
  });
