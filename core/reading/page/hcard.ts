import { isProfileUrl } from '../links';
import { mf2 } from 'microformats-parser';
import { tidy } from '../../people/text';
import type { Said } from '../types';
import type { Fact, Subject } from './facts';

type Item = ReturnType<typeof mf2>['items'][number];
type Value = Item['properties'][string][number];

const MOST_BYTES = 3_000_000;
const PLACE = 'https://page.example/';

function textOf(value: Value | undefined): string {
  if (value === undefined) return '';
  if (typeof value === 'string') return tidy(value);
  if ('type' in value) return textOf(value.properties.name?.[0]) || tidy(String(value.value ?? ''));
  return tidy(String(value.value ?? ''));
}
const isItem = (value: Value | undefined): value is Item =>
  typeof value === 'object' && value !== null && 'type' in value;

const texts = (item: Item, key: string): string[] => (item.properties[key] ?? []).map(textOf).filter(Boolean);

function addressOf(item: Item): string {
  const [adr] = item.properties.adr ?? [];
  const from = isItem(adr) ? adr : item;
  const part = (key: string): string => texts(from, key)[0] ?? '';
  const town = [part('postal-code'), part('locality')].filter(Boolean).join(' ');
  const whole = [part('street-address'), town, part('region'), part('country-name')]
    .filter(Boolean)
    .join(', ');
  return whole || textOf(adr) || texts(item, 'label')[0] || '';
}

const fact = (field: Fact['field'], value: string): Fact[] =>
  value ? [{ field, value, origin: 'h-card' }] : [];
const WRITTEN_URL = /^https?:\/\//i;

function factsOf(item: Item, kind: Subject['kind'], base: string): Fact[] {
  const [org] = item.properties.org ?? [];
  const name = texts(item, 'name')[0] ?? '';
  const phones = texts(item, 'tel').map((text) => text.replace(/^tel:/i, ''));
  const urls = texts(item, 'url').filter((text) => WRITTEN_URL.test(text) && !text.startsWith(PLACE));
  return [
    ...(kind === 'person' ? fact('fullName', name) : fact('companyName', name)),
    ...(kind === 'person' ? fact('companyName', textOf(org)) : []),
    ...(kind === 'person' && isItem(org) ? firmFacts(org, base) : []),
    ...fact('jobTitle', texts(item, 'job-title')[0] ?? texts(item, 'role')[0] ?? ''),
    ...texts(item, 'email').flatMap((text) =>
      fact('email', text.replace(/^mailto:/i, '').replace(/\?.*$/, '')),
    ),
    ...phones.flatMap((phone) => fact('phone', phone)),
    ...fact('address', addressOf(item)),
    ...fact('birthday', texts(item, 'bday')[0] ?? ''),
    ...urls.flatMap((url) => fact(isProfile(url, base) ? 'profile' : 'url', url)),
  ];
}

/** What the card of a firm within a person's card adds: its site and its number. */
const firmFacts = (org: Item, base: string): Fact[] =>
  factsOf(org, 'company', base).filter((one) => one.field === 'url' || one.field === 'phone');

const isProfile = (url: string, base: string): boolean => url === base || isProfileUrl(url);

const isCompany = (item: Item): boolean => {
  const name = texts(item, 'name')[0];
  const org = textOf(item.properties.org?.[0]);
  return Boolean(name && org && name === org);
};

export interface Cards {
  people: Subject[];
  companies: Subject[];
  conversation: Said[];
}

/** What the microformats2 of a page say: h-card people and organizations, h-entry messages. Never throws. */
export function readHCards(html: string, url: string): Cards {
  const result: Cards = { people: [], companies: [], conversation: [] };
  if (!/\b(?:h-card|vcard|h-entry|hentry)\b/.test(html) || html.length > MOST_BYTES) return result;
  const base = URL.canParse(url) ? url : PLACE;
  const visit = (item: Item, depth: number): void => {
    if (depth > 12 || result.people.length > 500) return;
    if (item.type?.includes('h-card')) {
      const kind = isCompany(item) ? 'company' : 'person';
      const subject: Subject = {
        kind,
        facts: factsOf(item, kind, base),
        url: texts(item, 'url').find((text) => WRITTEN_URL.test(text)) ?? null,
      };
      if (subject.facts.some((fact) => fact.field === 'fullName' || fact.field === 'companyName'))
        (kind === 'company' ? result.companies : result.people).push(subject);
      return;
    }
    if (item.type?.includes('h-entry')) {
      result.conversation.push({
        id: texts(item, 'uid')[0] ?? texts(item, 'url')[0] ?? null,
        from: textOf(item.properties.author?.[0]),
        at: texts(item, 'published')[0] ?? null,
        text: texts(item, 'content')[0] ?? texts(item, 'name')[0] ?? '',
      });
      return;
    }
    for (const child of item.children ?? []) visit(child, depth + 1);
    for (const values of Object.values(item.properties))
      for (const value of values) if (isItem(value)) visit(value, depth + 1);
  };
  try {
    for (const item of mf2(html, { baseUrl: base }).items) visit(item, 0);
  } catch {
    // A document the parser cannot take has no cards for us; the page has other voices.
  }
  return result;
}
