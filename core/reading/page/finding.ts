import { alternatives } from '../../words/compile';
import { companyLikeness } from '../../people/companies';
import { nameFitsLocalPart } from '../../people/names';
import { findEmails, localPart } from '../../people/emails';
import { contactsIn } from './contacts';
import type { Fact } from './facts';
import { readHeadline } from './headline';
import { titleLikeness } from '../signature/words';
import type { PageLine } from './layout';
import { introducedIn, isInAddress, isKnownName, isLead, isPersonName, ledToIn } from './names';
import { PRONOUNS } from './outline';
import { isPersonLabel, type Pair } from './pairs';
import type { Sheet } from './sheet';

/** A name on a page, and where its account begins. */
export interface FoundName {
  name: string;
  by: 'heading' | 'label' | 'introduction' | 'lead' | 'title' | 'line';
  /** The number of its line among those the account is read from. */
  line: number;
  /** Where in that line what follows the name begins; null when nothing follows it there. */
  end: number | null;
  /** Whether all of the page is about them, and not only what follows the name. */
  isAnywhere: boolean;
  at?: NonNullable<Fact['at']>;
  /** The post that the words before the name say: "Inhaberin: …". */
  post?: Fact;
}

/** The post in the words that lead to a name, if they say one. */
function postIn(lead: string, origin: Fact['origin']): { post?: Fact } {
  const words = lead.replace(/[\s:：,.–—-]+$/u, '').split(/\s+/);
  const first = words.findIndex((word) => titleLikeness(word) > 0);
  return first < 0 ? {} : { post: { field: 'jobTitle', value: words.slice(first).join(' '), origin } };
}

const HANDLE = /\s*[([]?@[\w.]+[)\]]?/g;
const SEGMENTS = /\s+[|·•–—-]\s+|\s*\|\s*|,\s+|\s*[(（]|\s+(?:at|on|bei|chez)\s+/;
/** Somebody is named in so many headings: the page is a list. */
const LIST = 3;
/** So many lines a card has. */
const REACHED = 6;

const clean = (text: string, url = ''): string => {
  const bare = text.replace(HANDLE, '').replace(PRONOUNS, '').trim();
  // "Jonah Priest jpriest" at /jpriest: what they are called on the site stands beside the name.
  const called = /\/([^/?#]+)\/?(?:[?#].*)?$/.exec(url)?.[1]?.toLowerCase() ?? '';
  const [last = ''] = bare.split(/\s+/).slice(-1);
  return called && last.toLowerCase() === called && bare.split(/\s+/).length > 2
    ? bare.slice(0, -last.length).trim()
    : bare;
};

/** What else on the page says that a text is somebody's name. */
function isBorneOut(name: string, line: number, sheet: Sheet, lines: readonly PageLine[]): boolean {
  if ((isKnownName(name) && companyLikeness(name) === 0) || isInAddress(name, sheet.url)) return true;
  if (/profile/i.test(sheet.outline.meta.get('og:type')?.text ?? '')) return true;
  const next = lines[line + 1]?.text.trim() ?? '';
  if (next.length < 160 && readHeadline(next, sheet.host)?.jobTitle) return true;
  return lines.some((one) =>
    findEmails(one.text).some((found) => nameFitsLocalPart(name, localPart(found.value))),
  );
}

/** "Rechtsanwältin Julia Brandt", "Professor Amara Nwosu": the name behind the post or honorific that a heading begins with. */
function behindPost(text: string): { name: string; post: string } | null {
  const words = text.split(/\s+/);
  for (let first = 1; first <= MOST_OF_A_POST && first < words.length - 1; first++) {
    const [post, name] = [words.slice(0, first).join(' '), words.slice(first).join(' ')];
    if (titleLikeness(post) > 0 && isPersonName(name) && isKnownName(name)) return { name, post };
  }
  return null;
}
const MOST_OF_A_POST = 3;
const HONORIFIC = new RegExp(`^(?:${alternatives('honorific')})\\.?$`, 'iu');

function byHeading(sheet: Sheet, lines: readonly PageLine[]): FoundName | null {
  const named = lines.flatMap((line, index) => {
    const name = line.level > 0 ? clean(line.text, sheet.url) : '';
    if (name && isPersonName(name)) return [{ line, index, name, post: '' }];
    const behind = name ? behindPost(name) : null;
    return behind ? [{ line, index, ...behind }] : [];
  });
  const first = named.find(({ line }) => line.level === 1);
  if (!first && named.length >= LIST) return null;
  const found = [...(first ? [first] : []), ...named].find(({ name, index }) =>
    isBorneOut(name, index, sheet, lines),
  );
  if (!found) return null;
  const { line, index, name, post } = found;
  const at = line.text.indexOf(name);
  return {
    name,
    by: 'heading',
    line: index,
    end: null,
    isAnywhere: false,
    ...(post && !HONORIFIC.test(post)
      ? { post: { field: 'jobTitle' as const, value: post, origin: 'page headings' as const } }
      : {}),
    ...(at < 0
      ? {}
      : { at: { part: 'text' as const, start: line.start + at, end: line.start + at + name.length } }),
  };
}

function byLabel(pairs: readonly Pair[]): FoundName | null {
  const pair = pairs.find(({ field, value }) => field === 'fullName' && isPersonName(value));
  const [given, family] = (['givenName', 'familyName'] as const).map((half) =>
    pairs.find(({ field, value }) => field === half && value.length < 40),
  );
  if (!pair && given && family)
    return {
      name: `${given.value} ${family.value}`,
      by: 'label',
      line: given.line,
      end: null,
      isAnywhere: true,
    };
  return pair
    ? {
        name: pair.value,
        by: 'label',
        line: pair.line,
        end: null,
        isAnywhere: true,
        at: { part: 'text', start: pair.start, end: pair.start + pair.value.length },
        ...(isPersonLabel(pair.label) ? {} : postIn(pair.label, 'labelled lines')),
      }
    : null;
}

const at = (line: PageLine, start: number, end: number): NonNullable<Fact['at']> => ({
  part: 'text',
  start: line.start + start,
  end: line.start + end,
});

function bySentence(lines: readonly PageLine[], by: 'introduction' | 'lead'): FoundName | null {
  const read = by === 'introduction' ? introducedIn : ledToIn;
  for (const [index, line] of lines.entries()) {
    if (line.text.length > 2000) continue;
    const found = read(line.text);
    if (found)
      return {
        name: found.name,
        by,
        line: index,
        end: found.end,
        isAnywhere: by === 'introduction',
        at: at(line, found.start, found.end),
        ...(found.post
          ? { post: { field: 'jobTitle' as const, value: found.post, origin: 'page text' as const } }
          : postIn(found.lead, 'page text')),
      };
  }
  return null;
}

/** The name in the line below "Your contact" or "Listed by". */
function belowLead(lines: readonly PageLine[]): FoundName | null {
  for (const [index, line] of lines.entries()) {
    const next = lines[index + 1];
    if (!next || !isLead(line.text.trim())) continue;
    const name = next.text.trim().split(/,\s|\t/)[0] ?? '';
    if (!isPersonName(name)) continue;
    const start = next.text.indexOf(name);
    const end = start + name.length;
    return { name, by: 'lead', line: index + 1, end, isAnywhere: false, at: at(next, start, end) };
  }
  return null;
}

/** The name that begins the title of the page, where the page shows it as well or its address is made of it. */
function byTitle(sheet: Sheet, lines: readonly PageLine[]): FoundName | null {
  const { outline } = sheet;
  for (const title of [outline.meta.get('og:title')?.text ?? '', outline.title]) {
    const name = clean(title.split(SEGMENTS)[0] ?? '');
    if (!name || !isPersonName(name)) continue;
    const line = lines.findIndex((one) => one.text.includes(name));
    const shown = lines[line];
    if (!shown && !isKnownName(name) && !/\(@/.test(title)) continue;
    if (!isBorneOut(name, line, sheet, lines) && !/\(@/.test(title)) continue;
    const end = shown ? shown.text.indexOf(name) + name.length : null;
    return { name, by: 'title', line: Math.max(0, line), end: line < 0 ? null : end, isAnywhere: true };
  }
  return null;
}

/** A line that is a name we know, with a post below it. */
function byLine(sheet: Sheet, lines: readonly PageLine[]): FoundName | null {
  const found: FoundName[] = [];
  for (const [index, line] of lines.entries()) {
    const [name = ''] = line.text.trim().split(/,\s|\t/);
    const start = line.text.indexOf(name);
    const rest = line.text.slice(start + name.length).replace(/^[\s,]+/, '');
    // A name we do not know stands alone, with a way to reach whoever it is not far below.
    const isReached = lines.slice(index, index + REACHED).some((one) => contactsIn(one).length > 0);
    if (!isPersonName(name) || !(isKnownName(name) || (!rest && isReached))) continue;
    const next = rest || (lines[index + 1]?.text.trim() ?? '');
    if (next.length > 160 || !readHeadline(next, sheet.host)?.jobTitle) continue;
    const end = start + name.length;
    found.push({ name, by: 'line', line: index, end, isAnywhere: false, at: at(line, start, end) });
  }
  return found.length && found.length < LIST ? (found[0] ?? null) : null;
}

/** Whom the words of a page are about, by what says so most surely. */
export const findName = (
  sheet: Sheet,
  lines: readonly PageLine[],
  pairs: readonly Pair[],
): FoundName | null =>
  byHeading(sheet, lines) ??
  byLabel(pairs) ??
  bySentence(lines, 'introduction') ??
  belowLead(lines) ??
  bySentence(lines, 'lead') ??
  byTitle(sheet, lines) ??
  byLine(sheet, lines);
