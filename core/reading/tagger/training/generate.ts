import common from '../../lexicon/common.json';
import names from '../../lexicon/names.json';
import phrases from './phrases.json';

/** A number from 0 to below 1, the same series for the same seed. */
export type Random = () => number;

/** A stretch of a generated note, and what it is. */
export interface Part {
  text: string;
  kind: 'fullName' | 'companyName' | 'jobTitle' | null;
}

interface Language {
  /** What somebody says before they come to it, when they dictate. */
  openers: readonly string[];
  leads: readonly string[];
  whos: readonly string[];
  joins: readonly string[];
  tails: readonly string[];
  titles: readonly string[];
  forms: readonly string[];
  /** What is noted with nobody named. */
  nobody: readonly string[];
}

const { trades, institutes, things, ...rest } = phrases;
const LANGUAGES: readonly Language[] = Object.values(rest);
/** English notes are the most, as they are in what is read. */
const OFTEN = 3;
const WEIGHED = [...Array.from({ length: OFTEN }, () => rest.en), ...LANGUAGES];
const GIVEN = names.given.split(' ');
const FAMILY = names.family.split(' ');
const SYLLABLES =
  'ba bren cal dor el fen gar hal is jor kel lor mar nor ol per quin ros sel tor ul ves wen yar zan lind holt stead by wick ton mere ric'.split(
    ' ',
  );
const HONORIFICS =
  'Mr Mrs Ms Mr. Mrs. Ms. Dr Dr. Frau Herr Hr. Hrn. Fr. Mme M. Sra. Sr. Dhr. Mevr. Sig. Sig.ra Sister'.split(
    ' ',
  );
const LEADING = [
  'van ',
  'de ',
  'von ',
  'van der ',
  'van den ',
  'von der ',
  'De ',
  'Di ',
  'da ',
  'dos ',
  'La ',
  'Mc',
  'O’',
  "O'",
  "D'",
];

const COMMON = common.words.split(' ').filter((word) => word.length >= 4);

const capitalFirst = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
const capital = (word: string): string =>
  word.replace(/(^|[-' ’])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase());

/** Makes notes as people write them, with names, firms and titles in them, from phrases of eleven languages. */
export function noteMaker(random: Random): () => Part[] {
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const chance = (share: number): boolean => random() < share;
  /** The beginning of one name and the end of another. */
  const crossed = (): string => {
    const [one, other] = [any(FAMILY), any(FAMILY)];
    return one.slice(0, Math.ceil(one.length / 2)) + other.slice(Math.floor(other.length / 2));
  };
  const made = (): string =>
    capital(
      chance(0.5) ? crossed() : Array.from({ length: chance(0.7) ? 2 : 3 }, () => any(SYLLABLES)).join(''),
    );
  // A name that no list has is made up, so that the place of a word counts as well as what it is.
  const given = (): string => (chance(0.3) ? made() : capital(any(GIVEN)));
  const family = (): string => {
    const name = chance(0.4) ? made() : capital(any(FAMILY));
    return chance(0.06) ? `${name}-${capital(any(FAMILY))}` : chance(0.07) ? any(LEADING) + name : name;
  };
  const fullName = (own: string): string => {
    if (chance(0.04)) return `${given().slice(0, 1)}. ${chance(0.4) ? `${given().slice(0, 1)}. ` : ''}${own}`;
    return `${given()} ${own}${chance(0.06) ? ` ${family()}` : ''}`;
  };
  const firm = (language: Language, own: string): string =>
    any(language.forms).replace(/\{(\w)\}/g, (_, slot: string) => {
      if (slot === 'F') return capitalFirst(chance(0.7) ? own : family());
      if (slot === 'T') return any(trades.all);
      if (slot === 'I') return any(institutes.all);
      if (slot === 'G') return given();
      return chance(0.5) ? any(things.all) : chance(0.5) ? made() : capital(any(COMMON));
    });
  const digits = (count: number): string =>
    Array.from({ length: count }, () => Math.floor(random() * 10)).join('');
  const filled = (language: Language, tail: string): string =>
    tail.replace(/\{(\w)\}/g, (_, slot: string) => {
      if (slot === 'q') return String(1 + Math.floor(random() * 60));
      if (slot === 'p')
        return any([
          `0${digits(4)} ${digits(6)}`,
          `+44 ${digits(4)} ${digits(6)}`,
          `(${digits(3)}) 555-01${digits(2)}`,
          `0${digits(2)} ${digits(3)} ${digits(4)}`,
        ]);
      if (slot === 'm')
        return any(['18k', '£4,500', '12.500 €', '$20,000', '20 Tsd. Euro', '15 mil', 'nine hundred pounds']);
      if (slot === 'd')
        return any([
          'friday',
          '3.12.',
          '2 dec',
          '12/7',
          'mon',
          'am 3. Dezember',
          'lunes',
          'fredag',
          'mardi',
          'next week',
        ]);
      if (slot === 'x') return firm(language, family());
      if (slot === 'e') return `${given().toLowerCase()}@${made().toLowerCase()}.example`;
      return chance(0.5) ? given() : fullName(family());
    });
  return () => {
    const language = any(WEIGHED);
    const own = family();
    const parts: Part[] = [];
    const say = (text: string, kind: Part['kind'] = null): void => void parts.push({ text, kind });
    const isOfNobody = chance(0.1);
    if (isOfNobody) say(filled(language, any(language.nobody)));
    else if (chance(0.12)) say(any(language.openers));
    if (!isOfNobody && chance(0.5)) {
      const lead = filled(language, any(language.leads));
      say(chance(0.3) ? capital(lead.slice(0, 1)) + lead.slice(1) : lead);
    }
    for (const piece of isOfNobody ? [] : any(language.whos).split(/(\{\w\})/)) {
      if (piece === '{n}') say(fullName(own), 'fullName');
      else if (piece === '{g}') say(given(), 'fullName');
      else if (piece === '{h}') {
        say(`${any(HONORIFICS)} `);
        say(chance(0.5) ? own : fullName(own), 'fullName');
      } else if (piece === '{f}') say(firm(language, own), 'companyName');
      else if (/^\{[opeqx]\}$/.test(piece)) say(filled(language, piece));
      else if (piece === '{t}')
        say(chance(0.4) ? capital(any(language.titles)) : any(language.titles), 'jobTitle');
      else say(piece);
    }
    const more = Math.floor(random() * 3);
    for (let tail = 0; tail < more; tail++) {
      say(filled(language, any(language.joins)));
      say(filled(language, any(language.tails)));
    }
    if (chance(0.3)) for (const part of parts) part.text = part.text.toLowerCase();
    else if (chance(0.05)) for (const part of parts) part.text = part.text.toUpperCase();
    if (chance(0.08))
      for (const part of parts) if (part.kind === null) part.text = part.text.replace(/[,.:]/g, '');
    return parts.filter((part) => part.text);
  };
}
