import type { Card, CardProperty } from '../../formats/vcard';
import { normalizeEmail } from '../../people/emails';
import { tidy } from '../../people/text';

export type PlaceType = 'work' | 'home';

/** What a card says beside its claims: parts of values that a claim has no place for. */
export interface CardDetails {
  /** Honorific prefixes as written: `Dr.` */
  prefix: string;
  department: string;
  addressType: PlaceType | null;
  /** RFC 6350 §6.3.1: box, extended, street, locality, region, code, country; null where the card has no address. */
  addressParts: string[] | null;
  /** Which addresses are for work and which are private, by the normalised address. */
  emailTypes: Record<string, PlaceType>;
  tags: string[];
}

const LONGEST = 200;
const MOST = 50;
const parts = ({ value }: CardProperty, separator: string): string[] =>
  (Array.isArray(value) ? value : value.split(separator)).map((part) => tidy(part).slice(0, LONGEST));
const placeOf = ({ params }: CardProperty): PlaceType | null =>
  params.type?.includes('home') ? 'home' : params.type?.includes('work') ? 'work' : null;

/** Reads what a card says beside its claims. */
export function readCardDetails({ properties }: Card): CardDetails {
  const find = (name: string): CardProperty | undefined =>
    properties.find((property) => property.name === name);
  const [name, org, address] = [find('n'), find('org'), find('adr')];
  const emails = properties
    .filter((property) => property.name === 'email')
    .slice(0, MOST)
    .flatMap((property): [string, PlaceType][] => {
      const type = placeOf(property);
      const text = (Array.isArray(property.value) ? (property.value[0] ?? '') : property.value).replace(
        /^mailto:/i,
        '',
      );
      return type ? [[normalizeEmail(text), type]] : [];
    });
  return {
    prefix: name ? (parts(name, ';')[3] ?? '') : '',
    department: org ? parts(org, ';').slice(1).filter(Boolean).join(', ') : '',
    addressType: address ? placeOf(address) : null,
    addressParts: address ? [...parts(address, ';'), '', '', '', '', '', '', ''].slice(0, 7) : null,
    emailTypes: Object.fromEntries(emails),
    tags: properties
      .filter((property) => property.name === 'categories')
      .flatMap((property) => parts(property, ','))
      .filter(Boolean)
      .slice(0, MOST),
  };
}
