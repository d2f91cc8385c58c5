import anyAscii from 'any-ascii';
import { toRomaji } from 'wanakana';
import { fold, spelt } from '../text';
import letters from './letters.json';
import { readingsOf } from './kanji';
import { scriptOf } from './scripts';

/** By scheme what each letter is written as, in the order of its letters; the longest letters first. */
function tableOf(letters: string, written: string): [RegExp, Map<string, string>] {
  const from = letters.split(' ');
  const to = written.split(' ');
  return [
    new RegExp(from.join('|'), 'gu'),
    new Map(from.map((letter, at) => [letter, to[at] === '-' ? '' : (to[at] ?? '')])),
  ];
}
function schemesOf(script: 'cyrillic' | 'greek'): Map<string, [RegExp, Map<string, string>]> {
  const { letters: list, ...schemes } = letters[script];
  return new Map(Object.entries(schemes).map(([name, written]) => [name, tableOf(list, written)]));
}
const SCHEMES = { cyrillic: schemesOf('cyrillic'), greek: schemesOf('greek') };
/** Words of Cyrillic and Greek as they begin and end otherwise than their letters say. */
const BGN_E = /(?<=^|[аеёиоуыэюяйьъ])е/gu;
const INITIAL_B = /^μπ/u;
const INITIAL_D = /^ντ/u;

/** A word of Cyrillic or Greek letters by one published scheme, in small letters without marks. */
export function byScheme(word: string, script: 'cyrillic' | 'greek', scheme: string): string {
  const table = SCHEMES[script].get(scheme);
  if (!table) return '';
  let text = word.toLowerCase().normalize('NFC');
  if (script === 'greek')
    text = text.normalize('NFD').replace(/\p{M}/gu, '').replace(INITIAL_B, 'β').replace(INITIAL_D, 'δ');
  else if (scheme.startsWith('BGN')) text = text.replace(BGN_E, 'ye');
  return fold(text.replace(table[0], (letter) => table[1].get(letter) ?? letter));
}

const PARTS = 588;
const VOWELS = 28;
const HANGUL = letters.hangul;
const romanSyllables = (word: string, initial: string, vowel: string): string => {
  const [initials, vowels, finals] = [initial.split(' '), vowel.split(' '), HANGUL.final.split(' ')];
  const bare = (part: string | undefined): string => (part === '-' ? '' : (part ?? ''));
  return [...word.normalize('NFC')]
    .map((syllable) => {
      const at = (syllable.codePointAt(0) ?? 0) - 0xac00;
      if (at < 0 || at > 11171) return '';
      return (
        bare(initials[Math.floor(at / PARTS)]) +
        bare(vowels[Math.floor((at % PARTS) / VOWELS)]) +
        bare(finals[at % VOWELS])
      );
    })
    .join('');
};

/**
 * A word of Hangul: by the Revised Romanization of 2000 letter by letter (as names are, without the changes between
 * syllables), by McCune and Reischauer without marks, and as people of Korea usually write themselves.
 */
const ofHangul = (word: string): string[] => [
  romanSyllables(word, HANGUL.initial, HANGUL.vowel),
  romanSyllables(word, HANGUL['initial, McCune-Reischauer'], HANGUL['vowel, McCune-Reischauer']),
  romanSyllables(word, HANGUL['initial, as usual'], HANGUL['vowel, as usual']),
];

/** Kana by the modified Hepburn system; long vowels as they are spelt in kana. */
const ofKana = (word: string): string => fold(toRomaji(word.replace(/ー/g, '')).replace(/'/g, ''));

/**
 * How a word of a name may be written in Latin letters, the usual way first: by published schemes for Cyrillic, Greek, kana
 * and Hangul, by a dictionary of names for kanji, by reading for Chinese; a Latin word without its marks, and with its marks
 * spelt out. Folded.
 * @param as which part of the name it is, where that is known: kanji are read otherwise in a family name
 */
export function romanise(word: string, as: 'given' | 'family' | 'either' = 'either'): string[] {
  const script = scriptOf(word);
  if (script === 'latin') return distinct([fold(word), fold(spelt(word))]);
  if (script === 'cyrillic' || script === 'greek')
    return distinct([...SCHEMES[script].keys()].map((scheme) => byScheme(word, script, scheme)));
  if (script === 'kana') return distinct([ofKana(word)]);
  if (script === 'hangul') return distinct(ofHangul(word));
  const plain = fold(anyAscii(word)).replace(/ /g, '');
  return script === 'han' ? distinct([...readingsOf(word, as), plain]) : distinct([plain]);
}

const distinct = (list: readonly string[]): string[] => [...new Set(list.filter(Boolean))];
