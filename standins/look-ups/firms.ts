/** A number from text that is the same each time, 0 to 2³²−1 (FNV-1a, a published hash). */
export function hash(text: string): number {
  let value = 2_166_136_261;
  for (const byte of new TextEncoder().encode(text)) value = Math.imul(value ^ byte, 16_777_619) >>> 0;
  // A last stir, so that texts that differ at their end alone differ everywhere.
  value = Math.imul(value ^ (value >>> 15), 2_246_822_519) >>> 0;
  return (value ^ (value >>> 13)) >>> 0;
}

/** 0 to 1 from text, the same each time. */
export const share = (text: string): number => hash(text) / 2 ** 32;

const pick = <T>(from: readonly T[], text: string): T => from[hash(text) % from.length] as T;

export interface Firm {
  name: string;
  legalName: string;
  domain: string;
  country: string;
  timeZone: string;
  address: string;
  industry: string;
  employees: number;
  technologies: string[];
}

interface Place {
  country: string;
  timeZone: string;
  form: string;
  town: string;
  street: string;
}

const PLACES: readonly Place[] = [
  { country: 'GB', timeZone: 'Europe/London', form: 'Ltd', town: 'Leeds LS1 4AB', street: 'Mill Lane' },
  {
    country: 'PT',
    timeZone: 'Europe/Lisbon',
    form: 'Lda',
    town: '1200-123 Lisboa',
    street: 'Rua das Flores',
  },
  {
    country: 'NL',
    timeZone: 'Europe/Amsterdam',
    form: 'B.V.',
    town: '3511 AB Utrecht',
    street: 'Molenstraat',
  },
  { country: 'DE', timeZone: 'Europe/Berlin', form: 'GmbH', town: '50667 Köln', street: 'Gartenstraße' },
  { country: 'SE', timeZone: 'Europe/Stockholm', form: 'AB', town: '411 05 Göteborg', street: 'Hamngatan' },
  { country: 'IE', timeZone: 'Europe/Dublin', form: 'Ltd', town: 'Dublin 8', street: 'Quay Street' },
];
/** Firms of the demo whose country is told elsewhere. */
const SETTLED: Readonly<Record<string, Place>> = {
  'havnebud.example': {
    country: 'NO',
    timeZone: 'Europe/Oslo',
    form: 'AS',
    town: '5003 Bergen',
    street: 'Strandgaten',
  },
  'coralcrumb.example': PLACES[0] as Place,
  'rennie-joinery.example': PLACES[0] as Place,
  'dashline.example': PLACES[0] as Place,
  'greenbasket.example': PLACES[0] as Place,
  'padariasol.example': PLACES[1] as Place,
  'paoesal.example': PLACES[1] as Place,
  'norrskenflorists.example': PLACES[4] as Place,
  'liffeylinen.example': PLACES[5] as Place,
  'harrowstreet.example': {
    country: 'US',
    timeZone: 'America/New_York',
    form: 'Inc',
    town: 'New York, NY 10001',
    street: 'Harrow Street',
  },
  'wattlebay.example': {
    country: 'AU',
    timeZone: 'Australia/Sydney',
    form: 'Council',
    town: 'Wattle Bay NSW 2099',
    street: 'Wharf Road',
  },
};
const TRADES: readonly [pattern: RegExp, industry: string][] = [
  [/baker|padaria|crumb|pao|bread|brot/, 'Bakeries'],
  [/courier|dash|express|parcel/, 'Couriers'],
  [/flor|bud|bloom/, 'Florists'],
  [/cater|kitchen|harrow/, 'Catering'],
  [/city|council|bay/, 'Public bodies'],
  [/linen|laundry/, 'Laundries'],
  [/joiner|workshop|metal/, 'Workshops'],
];
const OTHER_TRADES = ['Bakeries', 'Couriers', 'Florists', 'Catering', 'Grocers', 'Workshops'] as const;
const TECHNOLOGIES = [
  'web shop',
  'card terminal',
  'route planner',
  'stock ledger',
  'bookings page',
  'fleet tracker',
] as const;
const SIZES = [3, 6, 9, 14, 22, 35, 60, 110, 240] as const;

const titled = (words: string): string =>
  words.replace(/(^|[\s-])(\p{L})/gu, (_, gap: string, letter: string) => `${gap}${letter.toUpperCase()}`);

/** The firm behind a domain: made up, but the same whenever and by whomever it is asked for. */
export function firmOf(domain: string): Firm {
  const label = domain.split('.')[0] ?? domain;
  const place = SETTLED[domain] ?? pick(PLACES, `${domain} place`);
  const name = titled(label.replace(/[-_]+/g, ' '));
  return {
    name,
    domain,
    legalName: `${name} ${place.form}`,
    country: place.country,
    timeZone: place.timeZone,
    address: `${place.street} ${1 + (hash(`${domain} house`) % 90)}, ${place.town}`,
    industry: TRADES.find(([pattern]) => pattern.test(label))?.[1] ?? pick(OTHER_TRADES, `${domain} trade`),
    employees: pick(SIZES, `${domain} size`),
    technologies: TECHNOLOGIES.filter((one) => share(`${domain} ${one}`) < 0.3),
  };
}

/** The domain a firm of that name would have. */
export const domainOfName = (name: string): string =>
  `${name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\b(?:ltd|lda|gmbh|ab|as|bv|inc|and|the)\b|[^a-z0-9]+/g, '')}.example`;
