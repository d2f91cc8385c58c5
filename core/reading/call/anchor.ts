import { alternatives } from '../../words/compile';
import { companyLikeness } from '../../people/companies';
import { setCase } from '../../people/names';
import { fold } from '../../people/text';
import { givenName, isFamilyName } from '../lexicon/names';
import { titleLikeness } from '../signature/words';
import { readTail, type Found } from './who';

interface Word {
  text: string;
  start: number;
  end: number;
}

const WORD = /[\p{L}][\p{L}\p{M}'’]*(?:-[\p{L}][\p{L}\p{M}'’]*)*\.?/gu;
const PARTICLE = /^(?:van|von|de|der|den|da|do|dos|das|di|del|della|la|le|bin|ben|ter|ten|zu|af|av)$/i;
/** What ends a name that is written without capitals. */
const ENDS_NAME = new RegExp(
  String.raw`^(?:${alternatives('notACallersName')}|at|from|of|with|for|in|on|by|is|was|and|or|the|a|an|again|re|about|wants?|needs?|called|rang|phoned|said|says|will|would|has|had|bei|von|vom|aus|und|ist|will|hat|ruft|chez|des|du|et|est|veut|de|da|do|di|del|della|y|e|es|quiere|quer|ligou|llamo|vuole|bij|en|wil|is|belt|pa|fra|fran|hos|i|och|og|ring|ringde|ringte|ringede|vil)$`,
  'iu',
);
/** What stands right before whom somebody spoke to, in the midst of a sentence without capitals. */
const LED_BY =
  /^(?:with|w|to|ring|call|calling|rang|called|mit|frau|herr|con|com|met|mevr|dhr|med|avec|eu|madame|monsieur|mme|z|ze|pan|pani|s|se|dona|don|sig|dott|signora|signor|a|o|la|il)$/;
const MOST_WORDS = 40;
const FAMILY = 3;

/** Addresses are no names, though names are in them. */
const ADDRESS = /\S+@\S+|https?:\S+|www\.\S+/g;

const wordsOf = (text: string): Word[] =>
  [...text.replace(ADDRESS, (address) => ' '.repeat(address.length)).matchAll(WORD)]
    .slice(0, MOST_WORDS)
    .map((match) => ({ text: match[0], start: match.index, end: match.index + match[0].length }));
const isCapital = (word: string): boolean => /^\p{Lu}/u.test(word);

/** Where a name that begins with a given name ends: with the family names and particles that stand right behind it. */
function endOfName(text: string, words: readonly Word[], at: number, isLowered: boolean): number {
  let last = at;
  let families = 0;
  for (let next = at + 1; next < words.length && families < FAMILY; next++) {
    const [word, before] = [words[next], words[next - 1]];
    if (!word || !before || text.slice(before.end, word.start) !== ' ') break;
    if (/\.$/.test(before.text) && before.text.length > 2) break;
    // "Marloes de Wit", but "Renzo Galli di Galli Traslochi": behind a family name a particle leads to the firm.
    if (PARTICLE.test(word.text) && families === 0 && isCapital(words[next + 1]?.text ?? '')) continue;
    if (isLowered ? ENDS_NAME.test(fold(word.text)) || families > 0 : !isCapital(word.text)) break;
    if (companyLikeness(word.text) > 0 || titleLikeness(word.text) > 0) break;
    // "Priya Nandakumar Saffron Lane": what follows a known family name is something else.
    if (
      families > 0 &&
      isFamilyName(words[last]?.text ?? '') &&
      givenName(word.text) === 0 &&
      !isFamilyName(word.text)
    )
      break;
    last = next;
    families++;
  }
  return last;
}

const HONORIFIC =
  /(?<![\p{L}])(?:Mr|Mrs|Ms|Miss|Dr|Prof|Herrn?|Frau|Hrn?|Fr|Sra?|Mme|Dhr|Mevr|Sig|Sig\.ra)\.?\s+(?<name>(?:\p{Lu}\.\s?){0,3}\p{Lu}[\p{L}'’-]+(?:\s(?:(?:van|von|de|der|den|da|do|dos|di|del|la|le)\s){0,2}\p{Lu}[\p{L}'’-]+){0,2})(?<given>,\s\p{Lu}\p{L}+)?/u;
const MOST_SURE = 0.85;
/** Of a name whose given name is in no list. */
export const LESS_SURE = 0.7;

/** "Mr J. R. Whitcombe", "Hr. Falk, Jürgen": whoever is called by an honorific. */
export function byHonorific(text: string): Found | null {
  const match = HONORIFIC.exec(text);
  const { name = '', given = '' } = match?.groups ?? {};
  if (!match || !name || companyLikeness(name) > 0) return null;
  const first = given.replace(/^,\s/, '');
  const isTurned =
    first !== '' && !name.includes(' ') && companyLikeness(first) === 0 && titleLikeness(first) === 0;
  const start = match.index + match[0].length - given.length - name.length;
  return {
    field: 'fullName',
    value: isTurned ? `${first} ${name}` : name,
    start,
    end: start + name.length + (isTurned ? given.length : 0),
    confidence: MOST_SURE,
    source: 'the note',
  };
}

/** The title that stands right before a name, and the firm before that: "Lakeshore Clinics VP of Facilities Lena Ostrowski". */
function titleBefore(text: string, end: number): Found[] {
  const lead = /(?:^|[.,:;(]\s*)(?<words>[\p{L}\p{M}'’&/-]+(?:\s[\p{L}\p{M}'’&/-]+){0,6})[\s,.:]*$/u.exec(
    text.slice(0, end),
  );
  const words = lead?.groups?.words?.split(' ') ?? [];
  const from = end - (lead?.[0].length ?? 0) + (lead?.[0].indexOf(lead.groups?.words ?? '') ?? 0);
  for (let skip = 0; skip < words.length; skip++) {
    const title = words.slice(skip).join(' ');
    if (titleLikeness(title) === 0 || titleLikeness(words[skip] ?? '') === 0) continue;
    const firm = words.slice(0, skip).join(' ');
    const start = from + firm.length + (firm ? 1 : 0);
    const found: Found[] = [
      {
        field: 'jobTitle',
        value: title,
        start,
        end: start + title.length,
        confidence: 0.7,
        source: 'the note',
      },
    ];
    return firm && skip > 1 && words.slice(0, skip).every(isCapital)
      ? [
          ...found,
          {
            field: 'companyName',
            value: firm,
            start: from,
            end: from + firm.length,
            confidence: 0.6,
            source: 'the note',
          },
        ]
      : found;
  }
  return [];
}

const JOINS_FIRM = /^(?:&|and|of|the|und|et|e|y|de|da|do|du|des|del|di|van|von|für|og|och|i)$/i;

/** The firm a line begins with, before a mark and the name: "Wexcombe Water - Agnes Thornbury". */
function firmBefore(text: string, end: number): Found | null {
  const before =
    /^(?<firm>[\p{Lu}\d][\p{L}\p{M}\d'’&.]*(?:\s[\p{L}\p{M}\d'’&.]+){0,5}?)\s*(?:[–—-]\s|[:/|,]|\.\s)[^–—:/|]{0,24}$/u.exec(
      text.slice(0, end),
    );
  const firm = before?.groups?.firm ?? '';
  return firm &&
    titleLikeness(firm) === 0 &&
    (firm.includes(' ') || companyLikeness(firm) > 0) &&
    firm.split(' ').every((word) => JOINS_FIRM.test(word) || /^[\p{Lu}\d]/u.test(word)) &&
    givenName(firm) === 0
    ? { field: 'companyName', value: firm, start: 0, end: firm.length, confidence: 0.7, source: 'the note' }
    : null;
}

/** The firm behind a name where nothing has capitals: what stands behind "from", or between commas, up to the next little word. */
function loweredFirm(text: string, from: number): Found | null {
  const match =
    /^(?:\s*,\s*|\s+(?:from|at|of|@|bei|von|vom|chez|de|des|du|del|della|di|da|do|bij|van|hos|på|fra|från|i)\s+|\s+)(?<firm>[\p{L}][\p{L}\p{M}'’&-]*(?:\s[\p{L}\p{M}'’&-]+){0,3})/u.exec(
      text.slice(from),
    );
  const written = match?.groups?.firm ?? '';
  const words = written.split(' ');
  const stop = words.findIndex((word, at) => ENDS_NAME.test(word) && (at === 0 || !PARTICLE.test(word)));
  const firm = (stop < 0 ? words : words.slice(0, stop)).join(' ');
  if (!match || !firm || titleLikeness(firm) > 0) return null;
  const isSetOff = /^\s*,|^\s+\p{L}+\s/u.test(match[0].slice(0, match[0].length - written.length + 1));
  if (!isSetOff && companyLikeness(firm) === 0 && !firm.includes(' ')) return null;
  const start = from + match[0].length - written.length;
  return {
    field: 'companyName',
    value: setCase(firm),
    start,
    end: start + firm.length,
    confidence: 0.6,
    source: 'the note',
  };
}

/**
 * Whom a note is about, found by a given name anywhere in one of its first clauses, in any language: with the family name behind
 * it, and the title and firm around it. For what does not begin as notes mostly do.
 */
export function readAnchored(text: string): Found[] {
  const isLowered = text === text.toLowerCase();
  const called = byHonorific(text);
  if (called) return withFirm(text, called, readTail(text, called.end, [called]));
  const words = wordsOf(text);
  for (const [at, word] of words.entries()) {
    const given = givenName(word.text);
    // "bill (wexford haulage)": what stands first and alone before a bracket is a name, though it be a word as well.
    const isSetOff = at === 0 && given > 0 && /^\s\(/.test(text.slice(word.end));
    const sure = isSetOff || isLikeName(words, at, isLowered) ? 2 : given;
    if (!sure || (!isLowered && !isCapital(word.text)) || /\.$/.test(word.text)) continue;
    const last = endOfName(text, words, at, isLowered);
    const [end, isAlone] = [words[last]?.end ?? word.end, last === at];
    const hasFamily = !isAlone && isFamilyName(words[last]?.text ?? '');
    // A word that is also a name, and a name without a family name in the middle of things, say too little.
    if (sure === 1 && (isLowered || isAlone)) continue;
    if (isAlone && at > 1) continue;
    const isLed = given === 2 && !isAlone && LED_BY.test(fold(words[at - 1]?.text ?? ''));
    if (isLowered && !hasFamily && at > 2 && !isLed) continue;
    const written = text.slice(word.start, end).replace(/\.$/, '');
    const who: Found = {
      field: 'fullName',
      value: isLowered ? setCase(written) : written,
      start: word.start,
      end: word.start + written.length,
      confidence: isAlone ? 0.6 : given < 2 ? LESS_SURE : hasFamily ? MOST_SURE : 0.75,
      source: 'the note',
    };
    const tail = isLowered ? [loweredFirm(text, who.end)] : readTail(text, who.end, [who]);
    return withFirm(
      text,
      who,
      tail.flatMap((one) => one ?? []),
    );
  }
  return [];
}

/** What was found of somebody, and what stands before their name where nothing behind it says their firm or title. */
function withFirm(text: string, who: Found, tail: readonly Found[]): Found[] {
  const found = [who, ...tail];
  for (const one of [...titleBefore(text, who.start), firmBefore(text, who.start)])
    if (one && !found.some(({ field }) => field === one.field)) found.push(one);
  return found;
}

/** A name that is in no list, before a family name that is: "Trygve Moen". */
function isLikeName(words: readonly Word[], at: number, isLowered: boolean): boolean {
  const [word, next] = [words[at], words[at + 1]];
  if (!word || !next || word.text.length < 4 || ENDS_NAME.test(fold(word.text))) return false;
  const family = PARTICLE.test(next.text) && !isLowered ? words[at + 2] : next;
  if (!family || family.start - word.end > 12 || !isFamilyName(family.text)) return false;
  const isPlain = [word, family].every(
    ({ text }) => companyLikeness(text) === 0 && titleLikeness(text) === 0,
  );
  if (isLowered) return isPlain && at === 0;
  return (
    isPlain &&
    isCapital(word.text) &&
    isCapital(family.text) &&
    companyLikeness(`${word.text} ${family.text} ${words[at + 2]?.text ?? ''}`) === 0
  );
}
