import { companyLikeness } from '../../people/companies';
import { findEmails, isEmail, localPart, registrableDomain } from '../../people/emails';
import { isRoleName, looksLikeName } from '../../people/names';
import { readLabelled } from '../call/labelled';
import { cutLine } from '../signature/pieces';
import { titleLikeness } from '../signature/words';
import { fieldOfLabel } from '../table/labels';
import type { Fact, Origin } from './facts';
import { PRONOUNS, type Outline, type PageLink } from './outline';

/** "Buyer at Padaria Sol", "Head Baker, Brotwerk GmbH", "Einkauf bei Brotwerk": a title and a firm on one line. */
export function splitHeadline(line: string): { jobTitle: string; companyName: string } | null {
  const text = line.trim().replace(/[.\s]+$/, '');
  if (text.length > 140) return null;
  const joined =
    /^(.{2,80}?)\s+(?:at|@|bei|chez|bij|presso|hos|u)\s+(.{2,60})$/iu.exec(text) ??
    /^(.{2,60}?)\s*(?:,|\s[·•|–—-])\s*(.{2,60})$/u.exec(text) ??
    /^(.{2,60}?)\s+(?:na|no|en|da|do|de la|della)\s+(\p{Lu}.{1,60})$/u.exec(text);
  if (!joined?.[1] || !joined[2]) return null;
  const [left, right] = [joined[1].trim(), joined[2].trim()];
  if (/\S@\S|\d{5}/.test(right)) return null;
  const byWord = /\s(?:at|@|bei|chez|bij|presso|hos)\s/i.test(text);
  if (titleLikeness(left) > 0 && (byWord || companyLikeness(left) < 1))
    return { jobTitle: left, companyName: right };
  if (titleLikeness(right) > 0 && companyLikeness(left) > 0) return { jobTitle: right, companyName: left };
  return byWord && /^\p{Lu}/u.test(left) ? { jobTitle: left, companyName: right } : null;
}

const SEGMENTS = /\s+[|·•–—-]\s+|\s*\|\s*/;
/** A title as sites write it: "Ines Duarte - Buyer - Padaria Sol | Rollcall". */
function fromTitle(title: string, site: string, origin: Origin): Fact[] {
  const parts = title
    .split(SEGMENTS)
    .map((part) => part.trim())
    .filter((part) => part && part.toLowerCase() !== site.toLowerCase());
  const [name = '', ...rest] = parts;
  if (!isPersonName(name)) return [];
  const facts: Fact[] = [{ field: 'fullName', value: name, origin }];
  for (const part of rest.slice(0, 2)) {
    const both = splitHeadline(part);
    if (both) {
      facts.push({ field: 'jobTitle', value: both.jobTitle, origin });
      facts.push({ field: 'companyName', value: both.companyName, origin });
      return facts;
    }
    if (titleLikeness(part) > 0 && !facts.some((fact) => fact.field === 'jobTitle'))
      facts.push({ field: 'jobTitle', value: part, origin });
    else if (/^\p{Lu}/u.test(part) && facts.some((fact) => fact.field === 'jobTitle'))
      facts.push({ field: 'companyName', value: part, origin });
  }
  return facts;
}

export const isPersonName = (text: string): boolean =>
  looksLikeName(text) &&
  text.includes(' ') &&
  !isRoleName(text) &&
  titleLikeness(text) === 0 &&
  companyLikeness(text) < 1 &&
  !/^(?:about|our|the|my|meet|contact|team|people|search|all|home|welcome|sign|log|page|profile|new|messages?|conversation|directory|results?)\b/i.test(
    text,
  );

/** "… at Zielony Kurier in Poznań": a description says where, a firm's name does not. */
const IN_TOWN = /\s+in\s+\p{Lu}[\p{L} ,-]+$/u;

/** What the OpenGraph names of a page say. */
export function readOpenGraph({ meta, title }: Outline): {
  person: Fact[];
  company: Fact[];
  isProfile: boolean;
} {
  const of = (name: string): string => meta.get(name)?.text ?? '';
  const site = of('og:site_name');
  const person: Fact[] = [];
  const spelt = [of('profile:first_name'), of('profile:last_name')].filter(Boolean).join(' ');
  if (spelt) person.push({ field: 'fullName', value: spelt, origin: 'OpenGraph' });
  const shown = of('og:title') || title;
  for (const fact of fromTitle(shown, site, 'OpenGraph'))
    if (!person.some((one) => one.field === fact.field)) person.push(fact);
  const told = of('og:description') || of('description');
  const headline = splitHeadline(told.split(/(?<=[.!?])\s|\n/)[0] ?? '');
  if (headline && person.length) {
    for (const field of ['jobTitle', 'companyName'] as const)
      if (!person.some((one) => one.field === field))
        person.push({ field, value: headline[field].replace(IN_TOWN, ''), origin: 'OpenGraph' });
  }
  const contact: Fact[] = [
    ...(isEmail(of('og:email'))
      ? [{ field: 'email' as const, value: of('og:email'), origin: 'OpenGraph' as const }]
      : []),
    ...(of('og:phone_number')
      ? [{ field: 'phone' as const, value: of('og:phone_number'), origin: 'OpenGraph' as const }]
      : []),
  ];
  const isCompany = /^(?:business|company|restaurant|website)/i.test(of('og:type')) && !person.length;
  const [name = ''] = shown.split(SEGMENTS);
  return {
    person: person.length ? [...person, ...contact] : [],
    company:
      isCompany && name
        ? [{ field: 'companyName', value: name.trim(), origin: 'OpenGraph' }, ...contact]
        : [],
    isProfile: of('og:type').toLowerCase() === 'profile',
  };
}

/** The words of a page as they are shown: the name that heads it, the line below it, links and labelled lines. */
export function readPlain(outline: Outline, text: string, host: string | null): Fact[] {
  const facts: Fact[] = [];
  const { headings } = outline;
  const head =
    headings.find((heading) => heading.level === 1 && isPersonName(heading.text)) ??
    headings.find((heading) => isPersonName(heading.text));
  const name = head?.text ?? '';
  if (name) {
    facts.push({ field: 'fullName', value: name, origin: 'page headings' });
    facts.push(...headlineFacts(text, name));
  }
  facts.push(...linkFacts(outline.links, host), ...textFacts(text, host));
  for (const address of outline.addresses.slice(0, 1))
    if (/\d/.test(address.text) && address.text.length < 160)
      facts.push({
        field: 'address',
        value: address.text,
        origin: 'page text',
        at: { part: 'source', start: address.start, end: address.end },
      });
  return facts;
}

function headlineFacts(text: string, name: string): Fact[] {
  const at = text.indexOf(name);
  if (at < 0) return [];
  const below = text
    .slice(at + name.length, at + name.length + 600)
    .split('\n')
    .map((line) => line.trim())
    .filter(
      (line) => line && line.replace(PRONOUNS, '') && fieldOfLabel(line.split(/\t|:\s/)[0] ?? '') === null,
    )
    .slice(0, 4);
  const facts: Fact[] = [];
  for (const [index, line] of below.entries()) {
    const both = splitHeadline(line);
    if (both) {
      facts.push({ field: 'jobTitle', value: both.jobTitle, origin: 'page headings' });
      facts.push({ field: 'companyName', value: both.companyName, origin: 'page headings' });
      break;
    }
    if (titleLikeness(line) > 0 && line.split(' ').length <= 6 && companyLikeness(line) < 1) {
      facts.push({ field: 'jobTitle', value: line, origin: 'page headings' });
      const next = below[index + 1] ?? '';
      if (/^[\p{Lu}\d]/u.test(next) && next.split(' ').length <= 6 && !/[@:]|\d{4}/.test(next))
        facts.push({ field: 'companyName', value: next, origin: 'page headings' });
      break;
    }
  }
  return facts;
}

/** A site's own mailbox or one of its support lines is nobody's. */
const isSites = (email: string, host: string | null): boolean =>
  host !== null && registrableDomain(email) === host && isRoleName(localPart(email));

function linkFacts(links: readonly PageLink[], host: string | null): Fact[] {
  const facts: Fact[] = [];
  for (const link of links.slice(0, 400)) {
    const at = { part: 'source' as const, start: link.start, end: link.end };
    if (/^mailto:/i.test(link.href)) {
      const email = decodeURIComponentSafely(link.href.slice(7).split('?')[0] ?? '');
      if (isEmail(email) && !isSites(email, host))
        facts.push({ field: 'email', value: email, origin: 'page links', at });
    } else if (/^tel:/i.test(link.href))
      facts.push({
        field: 'phone',
        value: decodeURIComponentSafely(link.href.slice(4)),
        origin: 'page links',
        at,
      });
    else if (/\bme\b/.test(link.rel) && /^https?:/i.test(link.href))
      facts.push({ field: 'profile', value: link.href, origin: 'page links', at });
  }
  return facts;
}

function decodeURIComponentSafely(text: string): string {
  try {
    return decodeURIComponent(text).trim();
  } catch {
    return text.trim();
  }
}

/** An address written for readers and not for machines: "tobias [at] nordbud [dot] example". Common practice. */
const SPELT_EMAIL =
  /[\w.+-]{1,64}\s?[[({]\s?(?:at|@)\s?[\])}]\s?[\w-]{1,63}(?:(?:\s?[[({]\s?(?:dot|\.)\s?[\])}]\s?|\.)[\w-]{1,63}){1,4}/gi;

function textFacts(text: string, host: string | null): Fact[] {
  const facts: Fact[] = [];
  const shown = text.slice(0, 60_000);
  for (const claim of readLabelled(joinLabels(shown), undefined)) {
    if (claim.field === 'note' || claim.field.startsWith('custom:')) continue;
    facts.push({
      field: claim.field as Fact['field'],
      value: claim.value,
      origin: 'page text',
      ...(claim.type ? { type: claim.type } : {}),
    });
  }
  for (const found of findEmails(shown).slice(0, 5))
    if (!isSites(found.value, host)) facts.push({ field: 'email', value: found.value, origin: 'page text' });
  for (const spelt of shown.matchAll(SPELT_EMAIL)) {
    const email = spelt[0]
      .replace(/\s*[[({]\s*(?:at|@)\s*[\])}]\s*/i, '@')
      .replace(/\s*[[({]\s*(?:dot|\.)\s*[\])}]\s*/gi, '.');
    const at = { part: 'text' as const, start: spelt.index, end: spelt.index + spelt[0].length };
    if (isEmail(email)) facts.push({ field: 'email', value: email, origin: 'page text', at });
  }
  let start = 0;
  for (const line of shown.split('\n')) {
    if (line.length <= 200)
      for (const piece of cutLine({ text: line, start }, 0))
        if (piece.kind === 'phone' && (piece.label || piece.value.startsWith('+')))
          facts.push({
            field: 'phone',
            value: piece.value,
            origin: 'page text',
            ...(piece.label && piece.label !== 'phone' ? { type: piece.label } : {}),
            at: { part: 'text', start: piece.start, end: piece.end },
          });
    start += line.length + 1;
  }
  return facts;
}

/** A label on one line and its value on the next, or in the next cell, as definition lists and tables show them. */
const joinLabels = (text: string): string =>
  text.replace(/^([\p{L}][\p{L} -]{1,24}):?[ ]*[\n\t]+[ ]*(?=\S)/gmu, (whole, label: string) =>
    fieldOfLabel(label) ? `${label}: ` : whole,
  );
