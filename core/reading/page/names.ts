import { alternatives, wordsOf } from '../../words/compile';
import { companyLikeness } from '../../people/companies';
import { isRoleName, looksLikeName, stripTitles } from '../../people/names';
import { fold } from '../../people/text';
import { decodeSafely } from './contacts';
import { givenName, isFamilyName } from '../lexicon/names';
import { titleLikeness } from '../signature/words';
import { fieldOfLabel } from '../table/labels';

/** Headings of pages that are about nobody. */
const NOBODY =
  /^(?:about|our|the|my|meet|contact|team|people|search|all|home|welcome|sign|log|page|profile|new|messages?|conversation|directory|results?|hello|get|find|how|what|why|when|where|your|more|read|view|follow|book|buy|shop|news|events?|careers?|jobs?|services?|products?)\b/i;
/** Names in scripts that have no capitals: so many characters, in one word or two. */
const HAN_OR_KANA =
  /^(?:[\p{sc=Han}々]{1,3}[\s\u3000]?[\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}々]{1,4}|[\p{sc=Katakana}ー]{2,8}[・\s\u3000=][\p{sc=Katakana}ー]{2,10})$/u;
const HANGUL = /^[\p{sc=Hangul}]{2,4}$|^[\p{sc=Hangul}]{1,2}\s[\p{sc=Hangul}]{1,3}$/u;
const UNCASED =
  /^(?:[\p{sc=Arabic}]{2,14}(?:\s[\p{sc=Arabic}]{2,14}){1,3}|[\p{sc=Hebrew}'’"-]{2,14}(?:\s[\p{sc=Hebrew}'’"-]{2,14}){1,3}|[\p{sc=Thai}]{2,20}\s[\p{sc=Thai}]{2,24}|[\p{sc=Devanagari}]{2,16}(?:\s[\p{sc=Devanagari}]{2,16}){1,2})$/u;
/** How a person is spoken to in Japanese, Chinese and Korean, behind the name. */
const BEHIND = /[\s\u3000]*(?:さん|様|氏|先生|女士|小姐|님|씨)$/u;

const HEADINGS = new Set(
  '概要 会社概要 会社案内 联系方式 联系我们 公司简介 お問い合わせ 採用情報 회사소개 연락처 소개'.split(' '),
);

const isUncasedName = (text: string): boolean => {
  const bare = text.replace(BEHIND, '');
  return (
    (HAN_OR_KANA.test(bare) || HANGUL.test(bare) || UNCASED.test(bare)) &&
    !HEADINGS.has(bare) &&
    companyLikeness(bare) < 1 &&
    titleLikeness(bare) === 0 &&
    fieldOfLabel(bare) === null
  );
};

/** Whether a text has the shape of a person's name and of nothing else we know. */
export const isPersonName = (text: string): boolean =>
  isUncasedName(text) ||
  (looksLikeName(text) &&
    text.includes(' ') &&
    !isRoleName(text) &&
    titleLikeness(text) === 0 &&
    (companyLikeness(text) < 1 || isKnownName(text)) &&
    fieldOfLabel(text) === null &&
    !NOBODY.test(text));

/** Whether the words of a text are given and family names in the countries we have lists of. */
export function isKnownName(text: string): boolean {
  const words = stripTitles(text).split(/\s+/);
  return (
    isUncasedName(text) ||
    (words.length >= 2 &&
      (givenName(words[0] ?? '') > 0 || (givenName(words.at(-1) ?? '') > 0 && isFamilyName(words[0] ?? ''))))
  );
}

const NAME_WORD = String.raw`(?:\p{Lu}[\p{L}'’.-]*|van|von|de|da|der|den|dos|di|la|le|el|bin|al)`;
const NAME = String.raw`(\p{Lu}[\p{L}'’.-]*(?:\s+${NAME_WORD}){1,3}|[\p{sc=Han}\p{sc=Hangul}]{2,6})`;
const INTRODUCED = new RegExp(
  String.raw`(?<!\p{L})(?:${wordsOf('introducesSelf')
    .map((words) => words.replace(/\p{L}/u, (letter) => `[${letter}${letter.toUpperCase()}]`))
    .join('|')})\s+${NAME}(?!\p{L})`,
  'u',
);
const LEAD = String.raw`(?:${alternatives('contactLead')})`;
const LED = new RegExp(String.raw`(?:^|[.!?:]\s{1,4})\W{0,4}${LEAD}\s*[:：,–—-]?\s*(?=\S)`, 'giu');
const LEAD_ALONE = new RegExp(String.raw`^\W*${LEAD}\W*$`, 'iu');
const LED_NAME = new RegExp(
  String.raw`^(?:(?:Mr|Mrs|Ms|Mx|Dr|Herrn?|Frau|Mme|M|Monsieur|Madame|Sr|Sra|Sig|Dott|Ing)\.?\s+)*${NAME}(?=$|[\s,;:(|·•–—-])`,
  'u',
);

const POST_IS = new RegExp(
  String.raw`(?<=^|[.!?]\s)(?:${alternatives('ourPost')})\s(?<post>[\p{L}&'’/-]+(?:\s[\p{L}&'’/-]+){0,4})\s(?:${alternatives('isPost')})\s${NAME.replace('(', '(?<name>')}(?=[\s,.;:(]|$)`,
  'gu',
);

const LONGEST_LEAD = 50;
/** Who to speak to stands near the beginning of a paragraph; one that goes on for pages is a paper. */
const LONGEST_LINE = 4000;

export interface Named {
  name: string;
  /** Where it begins in the line, and where what follows it does. */
  start: number;
  end: number;
  /** The words that led to it. */
  lead: string;
  /** The post that a sentence says is theirs. */
  post?: string;
}

/** Trims a particle or a word that belongs to the sentence from the end of a name. */
const trimmed = (name: string): string =>
  // "I'm Ayo. I'm the buyer": a full stop behind a whole word ends the sentence.
  (name.split(/(?<=\p{Ll}{2})\.\s/u)[0] ?? name)
    .replace(/(?:\s+(?:van|von|de|da|der|den|dos|di|la|le|el|bin|al))+$/u, '')
    .replace(/\.$/, '');

/** The name somebody gives of themselves in a sentence: "My name is Tobe Okonjo and …". */
export function introducedIn(line: string): Named | null {
  const found = INTRODUCED.exec(line);
  const name = trimmed(found?.[1] ?? '');
  if (!found || !isPersonName(name)) return null;
  const start = found.index + found[0].lastIndexOf(name);
  return { name, start, end: start + name.length, lead: '' };
}

/** The name a line leads to: "Questions? Contact Reuben Tansley, Depot Manager, …". */
export function ledToIn(line: string): Named | null {
  for (const lead of line.slice(0, LONGEST_LINE).matchAll(LED)) {
    const behind = lead.index + lead[0].length;
    const colon = line.indexOf(':', behind);
    // "Vertreten durch die Geschäftsführerin: Ruth Kallweit": what leads to the name may say more before its colon.
    const starts = [behind, ...(colon >= 0 && colon - behind < LONGEST_LEAD ? [colon + 1] : [])];
    for (const from of starts) {
      const rest = line.slice(from).trimStart();
      const name = trimmed(LED_NAME.exec(rest)?.[1] ?? '');
      if (!name || !isPersonName(name)) continue;
      const start = line.indexOf(name, from);
      return { name, start, end: start + name.length, lead: line.slice(lead.index, start) };
    }
  }
  return postHeldIn(line.slice(0, LONGEST_LINE));
}

/** "Our School Business Manager is Marian Teale." */
function postHeldIn(line: string): Named | null {
  for (const held of line.matchAll(POST_IS)) {
    const { post = '', name: written = '' } = held.groups ?? {};
    const name = trimmed(written);
    if (titleLikeness(post) === 0 || !isPersonName(name)) continue;
    const start = held.index + held[0].lastIndexOf(name);
    return { name, start, end: start + name.length, lead: post, post };
  }
  return null;
}

/** Whether a line is nothing but words that lead to somebody named in the next: "Your contact", "Listed by". */
export const isLead = (line: string): boolean => line.length < 60 && LEAD_ALONE.test(line);

/** How sites call the part that tells of their people. Common practice. */
const PEOPLE =
  /\/[^/]*(?:team|people|person|staff|about|profile|member|speaker|user|who|contact|author|bio|attorney|agent|leadership|management|faculty|expert|mitarbeiter|ueber|über|leitung|equipe|équipe|equipo|equipa|zespol|medewerker|om-oss|melos|lyudi|shakhs)[^/]*\/|\/(?:in|u|p|~[^/]*)\//i;

/** Whether the address of a page is made of somebody's name, in the part of a site that tells of people: `/team/dinah-marlow`. */
export function isInAddress(name: string, url: string): boolean {
  if (!PEOPLE.test(url)) return false;
  const slug = fold(decodeSafely(url.replace(/^https?:\/\/[^/]*/i, '')));
  const words = fold(name)
    .split(' ')
    .filter((word) => word.length > 1);
  return words.length > 0 && words.every((word) => slug.includes(word));
}
