import { allLocales } from '@faker-js/faker';
import * as iuliia from 'iuliia';
import { pinyin } from 'pinyin-pro';
import hand from './hand.json';

/** A name as it is written in its own country, and otherwise. */
export interface Form {
  own: string;
  /** In Latin letters by one way or another; of a Latin name none. */
  latin: readonly string[];
  /** Short forms. */
  short: readonly string[];
  /** In kana. */
  kana?: string;
}
export interface Culture {
  name: string;
  given: readonly Form[];
  family: readonly Form[];
  /** The family name is written first at home. */
  familyFirst: boolean;
  /** Two family names, one of which is often dropped. */
  twoFamilies: boolean;
  particles: readonly string[];
}

/** Names for tuning and names for testing share no name: by the sum of their letters. */
export type Part = 'tuning' | 'test';
const partOf = (text: string): Part =>
  [...text].reduce((sum, letter) => Math.imul(sum ^ (letter.codePointAt(0) ?? 0), 0x01000193), 0x811c9dc5) &
  16
    ? 'tuning'
    : 'test';

const SHORT = hand.short.split('|').map((line) => line.split(' '));
const shortOf = (own: string): string[] =>
  SHORT.filter(([long]) => long === own).flatMap((line) => line.slice(1));

type Locale = { person?: Record<string, Record<string, string[]> | undefined> };
const listed = (locale: string, kind: 'first_name' | 'last_name'): string[] =>
  Object.values((allLocales as unknown as Record<string, Locale>)[locale]?.person?.[kind] ?? {}).flat();
const isPlain = (name: string): boolean => /^[\p{L}'’ -]{2,}$/u.test(name);

const latinCulture = (
  name: string,
  locale: string,
  more: Partial<Culture> = {},
): ((part: Part) => Culture) => {
  const formsOf = (list: readonly string[], part: Part): Form[] =>
    [...new Set(list)]
      .filter((own) => isPlain(own) && partOf(own) === part)
      .slice(0, 700)
      .map((own) => ({ own, latin: [], short: shortOf(own) }));
  return (part) => ({
    name,
    given: formsOf(
      listed(locale, 'first_name').concat(
        SHORT.flatMap(([long = '']) => (listed(locale, 'first_name').includes(long) ? [long] : [])),
      ),
      part,
    ),
    family: formsOf(listed(locale, 'last_name'), part),
    familyFirst: false,
    twoFamilies: false,
    particles: [],
    ...more,
  });
};

const WAYS = [
  'wikipedia',
  'bgn_pcgn',
  'icao_doc_9303',
  'mvd_310',
  'telegram',
  'yandex_money',
  'gost_52535',
] as const;
const translate = iuliia as unknown as { translate: (text: string, schema: unknown) => string } & Record<
  string,
  unknown
>;
const cyrillic = (part: Part): Culture => {
  const formOf = (own: string): Form => ({
    own,
    latin: [...new Set(WAYS.map((way) => translate.translate(own, translate[way.toUpperCase()])))],
    short: shortOf(own),
  });
  const of = (kind: 'first_name' | 'last_name'): Form[] =>
    [...new Set(listed('ru', kind))].filter((own) => partOf(own) === part).map(formOf);
  return {
    name: 'Russian',
    given: of('first_name'),
    family: of('last_name'),
    familyFirst: true,
    twoFamilies: false,
    particles: [],
  };
};

/** A line of the list by hand: as it is written at home, and in Latin letters. */
const byHand = (list: string, part: Part, hasKana = false): Form[] =>
  list
    .split('|')
    .map((line) => line.split(' '))
    .filter(([own = '']) => partOf(own) === part)
    .map((words) => {
      const [own = '', ...rest] = words;
      const kana = hasKana ? rest.shift() : undefined;
      return { own, latin: rest, short: [], ...(kana ? { kana } : {}) };
    });
/** In the list of Arabic family names articles are words of their own. */
const arabicFamilies = (part: Part): Form[] =>
  hand.arabic.family
    .split('|')
    .filter((line) => partOf(line) === part)
    .map((line) => {
      const own = /^[\p{Script=Arabic} ]+/u.exec(line)?.[0].trim() ?? '';
      const latin = line
        .slice(own.length)
        .trim()
        .replace(/\b(El|Al|Ben|Abdul) /g, '$1_')
        .split(' ');
      return { own, latin: latin.map((one) => one.replace('_', ' ')), short: [] };
    });
const chineseGiven = (part: Part): Form[] =>
  [...new Set(listed('zh_CN', 'first_name'))]
    .filter((own) => partOf(own) === part)
    .map((own) => {
      const syllables = pinyin(own, { toneType: 'none', type: 'array' });
      const joined = syllables.join('');
      const capital = joined[0]?.toUpperCase() + joined.slice(1);
      const parted = syllables.map((one) => one[0]?.toUpperCase() + one.slice(1)).join(' ');
      return {
        own,
        latin: [...new Set([capital, parted, syllables.length > 1 ? parted.replace(' ', '-') : capital])],
        short: [],
      };
    });

const CULTURES: readonly ((part: Part) => Culture)[] = [
  latinCulture('English', 'en'),
  latinCulture('German', 'de', { particles: ['von', 'von der', 'zu'] }),
  latinCulture('French', 'fr', { particles: ['de', 'du', 'de la'] }),
  latinCulture('Spanish', 'es', { twoFamilies: true, particles: ['de', 'de la', 'del'] }),
  latinCulture('Portuguese', 'pt_PT', { twoFamilies: true, particles: ['da', 'dos', 'de'] }),
  latinCulture('Dutch', 'nl', { particles: ['van', 'van der', 'de', 'van den', 'ter'] }),
  latinCulture('Polish', 'pl'),
  latinCulture('Hungarian', 'hu', { familyFirst: true }),
  latinCulture('Swedish', 'sv'),
  cyrillic,
  (part) => ({
    name: 'Greek',
    given: byHand(hand.greek.given, part),
    family: byHand(hand.greek.family, part),
    familyFirst: false,
    twoFamilies: false,
    particles: [],
  }),
  (part) => ({
    name: 'Arabic',
    given: byHand(hand.arabic.given, part),
    family: arabicFamilies(part),
    familyFirst: false,
    twoFamilies: false,
    particles: [],
  }),
  (part) => ({
    name: 'Chinese',
    given: chineseGiven(part),
    family: byHand(hand.chinese.family, part),
    familyFirst: true,
    twoFamilies: false,
    particles: [],
  }),
  (part) => ({
    name: 'Japanese',
    given: byHand(hand.japanese.given, part, true),
    family: byHand(hand.japanese.family, part, true),
    familyFirst: true,
    twoFamilies: false,
    particles: [],
  }),
  (part) => ({
    name: 'Korean',
    given: byHand(hand.korean.given, part),
    family: byHand(hand.korean.family, part),
    familyFirst: true,
    twoFamilies: false,
    particles: [],
  }),
];

export const culturesOf = (part: Part): Culture[] => CULTURES.map((make) => make(part));
