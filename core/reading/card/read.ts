import type { Card, CardProperty } from '../../formats/vcard';
import { isEmail, normalizeEmail } from '../../people/emails';
import { parseName } from '../../people/names';
import { readPhone, type PhoneType } from '../../people/phones';
import { tidy } from '../../people/text';
import { usableValue } from '../usable';
import type { Claim } from '../types';

const textOf = ({ value }: CardProperty): string =>
  (Array.isArray(value) ? value.filter((part) => part.trim()).join(', ') : value).trim();

/** `N` is family;given;additional;prefix;suffix (RFC 6350 §6.2.2). */
function nameOf(properties: readonly CardProperty[]): string {
  const fn = properties.find((property) => property.name === 'fn');
  const shown = fn ? tidy(textOf(fn)) : '';
  if (shown && !shown.includes('@')) return shown;
  const n = properties.find((property) => property.name === 'n')?.value;
  const parts = Array.isArray(n) ? n : (n ?? '').split(';');
  return tidy([parts[1], parts[2], parts[0]].filter(Boolean).join(' '));
}

const TYPES: readonly [RegExp, PhoneType][] = [
  [/^fax$/, 'fax'],
  [/^(?:cell|mobile|iphone|text)$/, 'mobile'],
  [/^(?:work|pref-work|main|voice-work)$/, 'work'],
  [/^home$/, 'home'],
];
const typeOf = (params: CardProperty['params']): PhoneType | null =>
  TYPES.find(([pattern]) => params.type?.some((type) => pattern.test(type)))?.[1] ?? null;

/** The parts of an address as one line. @param parts box, extended, street, locality, region, code, country (RFC 6350 §6.3.1) */
export function addressText(parts: readonly string[]): string {
  const [box, extended, street, town, region, code, country] = parts.map((part) =>
    tidy(part.replace(/\\n/g, ', ')),
  );
  return [box, extended, street, [code, town].filter(Boolean).join(' '), region, country]
    .filter(Boolean)
    .join(', ');
}

const addressOf = ({ value, params }: CardProperty): string =>
  addressText(Array.isArray(value) ? value : value.split(';')) || params.label?.[0] || '';

function dayOf(text: string): string | null {
  const [, year = '', month = '', day = ''] = /^(\d{4}|-)-?(\d{2})-?(\d{2})/.exec(text) ?? [];
  return month ? usableValue('birthday', `${year}-${month}-${day}`) : null;
}

/** Nobody has so many numbers and addresses; a card that has was made to hold a reader up. */
const MOST_CLAIMS = 300;
const MOST_PROPERTIES = 2000;
const PROFILE = /^(?:x-socialprofile|socialprofile|impp|x-profile)$/;

/**
 * The claims of one card. Spans count in the card as it stands in the file, where the value stands there as it is.
 * @param record which card of the file it is, when there are several
 * @param offset where the card begins in the text shown
 */
export function readCardClaims(card: Card, country?: string, record?: number, offset = 0): Claim[] {
  const claims: Claim[] = [];
  const known = new Set<string>();
  const add = (field: Claim['field'], value: string, more: Partial<Claim> = {}): void => {
    const key = `${field}:${more.normalized ?? value}`;
    if (!value || known.has(key) || claims.length >= MOST_CLAIMS) return;
    known.add(key);
    const at = card.raw.indexOf(value.split('\n')[0] ?? value);
    claims.push({
      field,
      value,
      confidence: 0.97,
      ...(at >= 0 ? { span: { part: 'text', start: offset + at, end: offset + at + value.length } } : {}),
      source: 'the card',
      ...(record === undefined ? {} : { record }),
      ...more,
    });
  };
  const { properties } = card;
  const name = nameOf(properties);
  const [org] = properties.filter((property) => property.name === 'org');
  const company = org
    ? (Array.isArray(org.value) ? (org.value[0] ?? '') : (org.value.split(';')[0] ?? '')).trim()
    : '';
  const isCompany = properties.some(
    (property) =>
      (property.name === 'kind' && /^org/i.test(textOf(property))) ||
      (property.name === 'x-abshowas' && /company/i.test(textOf(property))),
  );
  if (name && !isCompany && name !== company) add('fullName', parseName(name).fullName || name);
  else if (
    name &&
    !isCompany &&
    name === company &&
    !properties.some((property) => property.name === 'n' && /\p{L}/u.test(textOf(property)))
  )
    add('companyName', name);
  else if (name && !isCompany) add('fullName', parseName(name).fullName || name);
  const title =
    properties.find((property) => property.name === 'title') ??
    properties.find((property) => property.name === 'role');
  if (title) add('jobTitle', tidy(textOf(title)));
  if (isCompany || company) add('companyName', company || name);
  for (const one of properties.slice(0, MOST_PROPERTIES)) contactClaim(one, country, add);
  return claims;
}

type Add = (field: Claim['field'], value: string, more?: Partial<Claim>) => void;

function contactClaim(one: CardProperty, country: string | undefined, add: Add): void {
  const text = textOf(one);
  if (one.name === 'email' && isEmail(text.replace(/^mailto:/i, ''))) {
    const email = text.replace(/^mailto:/i, '');
    add('email', email, { normalized: normalizeEmail(email) });
  } else if (one.name === 'tel') {
    const written = text.replace(/^tel:/i, '').replace(/;ext=.*$/i, '');
    const read = readPhone(written, country ? [country] : ['GB']);
    if (read)
      add('phone', written, {
        normalized: read.normalized,
        type: typeOf(one.params) ?? read.type ?? 'work',
        confidence: /^(?:\+|00)/.test(written.trim()) ? 0.97 : 0.8,
      });
  } else if (one.name === 'adr') add('address', addressOf(one));
  else if (one.name === 'url' && text) add('url', text, { normalized: withScheme(text) });
  else if (PROFILE.test(one.name) && /^https?:/i.test(text))
    add('profile', text, { normalized: text.replace(/\/+$/, '') });
  else if (one.name === 'bday' && dayOf(text)) add('birthday', dayOf(text) ?? '');
  else if (one.name === 'tz' && /^[A-Z][A-Za-z]+\/[A-Za-z_/]+$/.test(text)) add('timeZone', text);
  else if (one.name === 'note') add('note', text);
}

const withScheme = (url: string): string =>
  (/^https?:\/\//i.test(url) ? url : `https://${url}`).replace(/\/+$/, '');
