import { addressLikeness, hasHouseShape, hasPostcode } from '../../people/addresses';
import { localPart } from '../../people/emails';
import { nameFitsLocalPart, nameOverlap } from '../../people/names';
import { contactOfLink, contactsIn, isSites } from './contacts';
import { textFact, type Fact } from './facts';
import { firmBeside, withoutDepartment } from './firm';
import { readHeadline } from './headline';
import type { LaidLink, PageLine } from './layout';
import type { Sheet } from './sheet';
import { findName, type FoundName } from './finding';
import { isKnownName, isPersonName } from './names';
import { readPairs, type Pair } from './pairs';
import { currentPost } from './posts';
import { isSitesLine, ownLines, rescued } from './scope';

/** What the words of a page, as they are shown, tell of one person. */
export interface Account {
  name: string;
  facts: Fact[];
  /** How the name was found; a page that only names whom to ask is otherwise about something else. */
  by: FoundName['by'];
}

/** So far below a name the post and the firm may stand. */
const HEADLINE_LINES = 5;
const LONGEST_LINE = 160;
const LONGEST_ADDRESS = 120;
const PRICE = /[$€£¥]\s?\d|\d\s?[€£]/;
const ADDRESS_LINES = 4;

/** What is left of "…, tél. 01 99 00 33 44" without the number. */
const LABEL_LEFT = /[\s,;(|·•–—-]+(?:\p{L}{1,6}[.:]*\s*)?$/u;
/** "… from Pomeroy Glass", behind the name somebody gives of themselves. */
const FROM_FIRM =
  /^(?:from|at|with|of|von|vom|bei|de|du|chez|van|bij|di|da|från|fra)\s+(?:the\s+|der\s+|dem\s+|(?:der\s+)?Firma\s+|la\s+|le\s+)?(\p{Lu}[\p{L}\d&'’-]*(?:\s+(?:(?:&|and|und|et|e|y)\s+)?\p{Lu}[\p{L}\d&'’-]*){0,4})/u;

/** Whether a line can be a firm's name, below a post that stands alone. */
const canBeFirm = (text: string): boolean =>
  /^[\p{Lu}\p{Lo}\d«“]/u.test(text) &&
  text.split(/\s+/).length <= 6 &&
  text.length < 60 &&
  !/[@:：]|\d{4}|[.!?]$/.test(text) &&
  addressLikeness(text) === 0;

/** The post and the firm in the lines at and below a name. */
function headlineFacts(
  lines: readonly PageLine[],
  found: FoundName,
  pairs: readonly Pair[],
  host: string | null,
): Fact[] {
  const facts: Fact[] = [];
  const has = (field: Fact['field']): boolean => facts.some((fact) => fact.field === field);
  const first = lines[found.line];
  const rest =
    first && found.end !== null
      ? { ...first, text: first.text.slice(found.end), start: first.start + found.end }
      : null;
  const below = [...(rest ? [rest] : []), ...lines.slice(found.line + 1, found.line + 1 + HEADLINE_LINES)];
  for (const [index, line] of below.entries()) {
    const text = line.text.trim().replace(/^[\s,;:·|–—-]+/, '');
    if (!text) continue;
    if (pairs.some((pair) => lines[pair.line] === line)) continue;
    if (isPersonName(text) && isKnownName(text) && nameOverlap(text, found.name) < 0.9) break;
    const isSaid = found.by === 'introduction' && line === rest;
    const from = isSaid ? FROM_FIRM.exec(text)?.[1] : undefined;
    if (from && !has('companyName')) facts.push(textFact('companyName', from, 'page headings', line));
    const sentence = isSaid ? ofSentence(text) : text;
    const read = sentence.length > LONGEST_LINE ? null : readHeadline(withoutContacts(sentence), host);
    const hinted =
      line.hint !== null && text.length < 80 && !has(line.hint) && read?.[line.hint] === undefined;
    if (hinted && line.hint) facts.push(textFact(line.hint, text, 'page headings', line));
    if (line.level > 0 && !read && !hinted) break;
    if (hinted) continue;
    if (text.length > LONGEST_LINE && line !== rest) break;
    if (read?.jobTitle && !has('jobTitle'))
      facts.push(textFact('jobTitle', read.jobTitle, 'page headings', line));
    if (read?.companyName && !has('companyName'))
      facts.push(textFact('companyName', read.companyName, 'page headings', line));
    if (has('jobTitle') && has('companyName')) break;
    const next = below[index + 1];
    const under = next?.text.trim() ?? '';
    if (
      read?.jobTitle &&
      next &&
      !has('companyName') &&
      canBeFirm(under) &&
      !contactsIn(next).length &&
      !pairs.some((pair) => lines[pair.line] === next) &&
      !(next.level > 0) &&
      readHeadline(under, host)?.jobTitle === undefined
    )
      facts.push(textFact('companyName', under, 'page headings', next));
  }
  return facts;
}

/** What somebody says of themselves behind their name: ", Florist at Penhale & Daughter in Truro. I do …". */
const ofSentence = (text: string): string =>
  (text.split(/(?<=[\p{L}\d])[.!?](?:\s|$)/u)[0] ?? '')
    .replace(/^(?:and|und|et|y|e|en|og|och|,)\s*/iu, '')
    .replace(/^(?:i am|i'm|i’m|i work as|ich bin|je suis|soy|sou|sono|ik ben|jag är|jeg er)\s+/iu, '')
    .replace(/^(?:the|a|an|der|die|le|la|l['’]|el|o|il|de|het)\s+/iu, '');

/** A line without the addresses and numbers in it, nor the labels that led to them. */
function withoutContacts(text: string): string {
  const contacts = contactsIn({
    text,
    start: 0,
    region: 'main',
    level: 0,
    hint: null,
  });
  const first = Math.min(...contacts.map((fact) => fact.at?.start ?? text.length), text.length);
  return contacts.length ? text.slice(0, first).replace(LABEL_LEFT, '').trim() : text;
}

/** Facts said by a label beside them. */
function pairFacts(pairs: readonly Pair[], name: string): Fact[] {
  return pairs.flatMap((pair): Fact[] => {
    if (pair.field === 'note' || pair.field === 'givenName' || pair.field === 'familyName') return [];
    if (pair.field === 'fullName' && (!isPersonName(pair.value) || nameOverlap(pair.value, name) < 0.9))
      return [];
    if (pair.field === 'address' && (!/\d/.test(pair.value) || pair.value.length < 8)) return [];
    if (pair.field === 'email' || pair.field === 'phone') return [];
    return [
      {
        field: pair.field,
        value: pair.value,
        origin: 'labelled lines',
        at: { part: 'text', start: pair.start, end: pair.start + pair.value.length },
      },
    ];
  });
}

/** The kind that a label gives a number in the same place. */
const typed = (fact: Fact, pairs: readonly Pair[]): Fact => {
  const type = pairs.find(
    (pair) =>
      pair.field === 'phone' &&
      pair.type &&
      fact.at?.part === 'text' &&
      Math.abs(pair.start - fact.at.start) <= 2,
  )?.type;
  return type ? { ...fact, type } : fact;
};

/** Addresses and numbers that are the person's: those made of their name if there are any, and none of the site. */
function ownContacts(
  sheet: Sheet,
  lines: readonly PageLine[],
  found: FoundName,
  pairs: readonly Pair[],
): Fact[] {
  const { layout, host } = sheet;
  const isFrom = (line: PageLine): boolean =>
    found.isAnywhere || line.start >= (lines[found.line]?.start ?? 0);
  const near = lines[Math.min(lines.length - 1, found.line + HEADLINE_LINES)]?.start ?? Infinity;
  const isNear = (start: number): boolean => found.by !== 'heading' && start <= near;
  const isOfSite = (line: PageLine): boolean =>
    isSitesLine(line) ||
    (!isNear(line.start) &&
      contactsIn(line).some((fact) => fact.field === 'email' && isSites(fact.value, host)));
  const open = [...lines.filter(isFrom), ...rescued(layout.read, found.name)].filter(
    (line) => !isOfSite(line),
  );
  const links = linksOf(layout.links, layout.lines, open);
  const all = [...links, ...open.flatMap(contactsIn)].map((fact) => typed(fact, pairs));
  const emails = all.filter(
    (fact) =>
      fact.field === 'email' &&
      (!isSites(fact.value, host) || (fact.at?.part === 'text' && isNear(fact.at.start))),
  );
  const named = emails.filter((fact) => nameFitsLocalPart(found.name, localPart(fact.value)));
  const taken = named.length ? named : emails.filter((fact) => fact.value === emails[0]?.value);
  return [...taken, ...all.filter((fact) => fact.field === 'phone').slice(0, 6)];
}

const linksOf = (links: readonly LaidLink[], all: readonly PageLine[], open: readonly PageLine[]): Fact[] => {
  const within = new Set(open);
  return links.flatMap((link) => {
    const line = all[link.line];
    const fact = line && within.has(line) ? contactOfLink(link) : null;
    return fact ? [fact] : [];
  });
};

/** A postal address on one line or on several that follow each other: a street, with the town and post code below it. */
export function addressFacts(lines: readonly PageLine[]): Fact[] {
  const isPart = (line: PageLine | undefined): line is PageLine =>
    line !== undefined &&
    line.text.length < LONGEST_ADDRESS &&
    contactsIn(line).length === 0 &&
    (addressLikeness(line.text.trim()) > 0 || hasPostcode(line.text));
  for (const [index, line] of lines.entries()) {
    const text = line.text.trim();
    if (!/\d/.test(text) || line.text.length > LONGEST_ADDRESS || contactsIn(line).length) continue;
    if (PRICE.test(text)) continue;
    const next = lines[index + 1];
    const isHouse = hasHouseShape(text) && next !== undefined && hasPostcode(next.text);
    if (addressLikeness(text) < 1 && !isHouse) continue;
    const parts = [line];
    for (let at = index + 1; parts.length < ADDRESS_LINES && isPart(lines[at]); at++)
      parts.push(lines[at] ?? line);
    const last = parts.at(-1) ?? line;
    return [
      {
        field: 'address',
        value: parts.map((part) => part.text.trim().replace(/,$/, '')).join(', '),
        origin: 'page text',
        at: {
          part: 'text',
          start: line.start + line.text.length - line.text.trimStart().length,
          end: last.start + last.text.trimEnd().length,
        },
      },
    ];
  }
  return [];
}

/**
 * What the words of a page tell of the one person it is about, or whom it names to be asked; null when of nobody.
 * @param seeksFirm whether a firm that is named anywhere on the page is theirs where no headline names one
 */
export function readAccount(sheet: Sheet, seeksFirm = true): Account | null {
  const lines = ownLines(sheet.layout.read);
  const pairs = readPairs(lines);
  const found = findName(sheet, lines, pairs);
  if (!found) return null;
  const name: Fact = {
    field: 'fullName',
    value: found.name,
    origin: found.by === 'label' ? 'labelled lines' : found.by === 'heading' ? 'page headings' : 'page text',
    ...(found.at ? { at: found.at } : {}),
  };
  const labelled = pairFacts(pairs, found.name);
  const says = (field: Fact['field'], facts: readonly Fact[]): boolean =>
    facts.some((fact) => fact.field === field);
  const headline = headlineFacts(lines, found, pairs, sheet.host).filter(
    (fact) => !says(fact.field, labelled),
  );
  const post = says('jobTitle', [...headline, ...labelled]) ? [] : currentPost(lines, sheet.host);
  const led = found.post && !says('jobTitle', [...labelled, ...headline]) ? [found.post] : [];
  const facts = [name, ...labelled, ...withoutDepartment(sheet, found.name, headline), ...post, ...led];
  const firm = !seeksFirm || says('companyName', facts) ? null : firmBeside(sheet, lines, found.name);
  if (firm) facts.push(firm);
  const from = found.by === 'heading' ? found.line : 0;
  if (!says('address', facts)) facts.push(...addressFacts(lines.slice(from)));
  return {
    name: found.name,
    by: found.by,
    facts: [...facts, ...ownContacts(sheet, lines, found, pairs), ...profileFacts(sheet.layout.links)],
  };
}

/** Other pages of theirs: those that a link says are of the same person (`rel=me`, HTML Living Standard and microformats). */
const profileFacts = (links: readonly LaidLink[]): Fact[] =>
  links
    .filter((link) => /\bme\b/.test(link.rel) && /^https?:/i.test(link.href) && link.region !== 'site')
    .map((link) => ({
      field: /^https?:\/\/[^/]+\/?$/i.test(link.href) ? 'url' : 'profile',
      value: link.href,
      origin: 'page links',
      at: { part: 'source', start: link.at.start, end: link.at.end },
    }));
