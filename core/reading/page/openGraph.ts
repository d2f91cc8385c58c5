import { isEmail } from '../../people/emails';
import { titleLikeness } from '../signature/words';
import type { Fact, Origin } from './facts';
import { readHeadline } from './headline';
import { isPersonName } from './names';
import type { Outline } from './outline';

const SEGMENTS = /\s+[|·•–—-]\s+|\s*\|\s*/;
/** What somebody is called on a site, beside their name: "Milo Lund (@milolund)", "… on Chirrup". */
const HANDLE = /\s*[([]?@[\w.]+[)\]]?(?:\s+on\s+\S+)?/g;
/** A title as sites write it: "Ines Duarte - Buyer - Padaria Sol | Rollcall". */
function fromTitle(title: string, site: string, origin: Origin): Fact[] {
  const parts = title
    .split(SEGMENTS)
    .map((part) => part.replace(HANDLE, '').trim())
    .filter((part) => part && part.toLowerCase() !== site.toLowerCase());
  const [name = '', ...rest] = parts;
  if (!isPersonName(name)) return [];
  const facts: Fact[] = [{ field: 'fullName', value: name, origin }];
  for (const part of rest.slice(0, 2)) {
    const both = readHeadline(part);
    if (both?.jobTitle && both.companyName) {
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
  const headline = readHeadline(told.split(/(?<=[.!?])\s|\n/)[0] ?? '');
  if (headline?.companyName && person.length)
    for (const field of ['jobTitle', 'companyName'] as const) {
      const value = headline[field];
      if (value && !person.some((one) => one.field === field))
        person.push({ field, value, origin: 'OpenGraph' });
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
