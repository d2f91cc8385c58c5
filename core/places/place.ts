import { countriesOfAddress, hasStreet } from '../people/addresses';
import { fold } from '../people/text';
import { countryNamed } from './countries';
import { postcodeTown } from './postcodes';

/** A town of the gazetteer. */
export interface Town {
  name: string;
  /** ISO 3166-1 alpha-2. */
  country: string;
  population: number;
  /** Degrees, WGS 84. */
  lon: number;
  lat: number;
}

/** What is known of where somebody is. */
export interface Addressed {
  address: string | null;
  /** The parts of a card's address (RFC 6350 §6.3.1). */
  parts?: readonly string[] | null;
  /** ISO 3166-1 alpha-2, where it stands in a field of its own. */
  country?: string | null;
}

export const PRECISIONS = ['address', 'town', 'post code', 'country'] as const;
/** What the place of a record is the place of. */
export type Precision = (typeof PRECISIONS)[number];
export interface Placed {
  lon: number;
  lat: number;
  precision: Precision;
  /** The town, or nothing where only the country is known. */
  town: string;
  country: string;
}

const [MOST_LETTERS, MOST_NAMES, MOST_WORDS] = [500, 24, 4];
/** A town is taken without its country where no other of its name comes near it in size. */
const STANDS_OUT = 20;
/** Post codes. */
const CODE =
  /\b(?:[A-Z]{1,2}\d[A-Z\d]?\s?\d[A-Z]{2}|[A-Z]\d[A-Z]\s?\d[A-Z]\d|\d{4}\s?[A-Z]{2}(?=\s|,|$)|(?:[A-Z]{1,2}-)?\d{3,5}(?:-\d{3,4})?|\d{2}-\d{3})\b/g;
/** A state, or the part of a town that a post office serves: "Portland ME", "Aarhus C". */
const STATE = /\s[A-Z]{1,3}$/;

const segmentsOf = (address: string): string[] =>
  address
    .slice(0, MOST_LETTERS)
    .split(/[,;\n·|]/)
    .map((segment) => segment.trim())
    .filter(Boolean);

/** What of a segment can be the name of a town: without post code and state, what follows its last number, its last words. */
function namesIn(segment: string): string[] {
  const cleaned = segment.replace(CODE, ' ').replace(/\s+/g, ' ').trim();
  const afterNumber = /\d\S*\s+([^\d]+)$/u.exec(segment)?.[1] ?? '';
  const tried = [
    cleaned,
    cleaned.replace(STATE, ''),
    afterNumber.replace(CODE, ' '),
    cleaned.replace(/\(.*\)/, ''),
  ];
  if (cleaned.includes(' ') && !hasStreet(segment)) {
    const words = cleaned.replace(STATE, '').split(' ');
    for (let count = Math.min(MOST_WORDS, words.length - 1); count > 0; count--)
      tried.push(words.slice(-count).join(' '));
  }
  return tried.map(fold).filter((name) => name.length > 1 && !/^\d+$/.test(name));
}

/** What an address can be looked up by, likeliest first. */
export interface LookedUp {
  /** Folded names that may be its town. */
  names: string[];
  /** ISO 3166-1 alpha-2. */
  countries: string[];
  /** What its post code would be in each of the countries: the folded name of a town. */
  coded: { country: string; name: string }[];
}

export function lookedUp({ address, parts, country }: Addressed): LookedUp {
  const [locality = '', partCountry = ''] = [parts?.[3], parts?.[6]];
  const backwards = segmentsOf(address ?? '').reverse();
  const named = [partCountry, ...backwards].flatMap((text) => countryNamed(text) ?? []);
  const suggested = countriesOfAddress((address ?? '').slice(0, MOST_LETTERS));
  const countries = [...new Set([...named, ...(country ? [country] : []), ...suggested])];
  const towns = backwards.filter((segment) => !countryNamed(segment)).flatMap(namesIn);
  return {
    names: [...new Set([fold(locality), ...towns].filter(Boolean))].slice(0, MOST_NAMES),
    countries,
    coded: countries.flatMap((code) => {
      const town = postcodeTown((address ?? '').slice(0, MOST_LETTERS), code);
      return town ? [{ country: code, name: fold(town) }] : [];
    }),
  };
}

const largest = (towns: readonly Town[]): Town | undefined =>
  towns.reduce<Town | undefined>(
    (best, town) => (best && best.population >= town.population ? best : town),
    undefined,
  );

/** A town so much larger than all others of its name that it is meant where no country is said. */
function standsOut(towns: readonly Town[]): Town | undefined {
  const best = largest(towns);
  const isAlone =
    best && towns.every((town) => town === best || town.population * STANDS_OUT <= best.population);
  return isAlone ? best : undefined;
}

const found = (town: Town, precision: Precision): Placed => ({
  lon: town.lon,
  lat: town.lat,
  precision,
  town: precision === 'country' ? '' : town.name,
  country: town.country,
});

/**
 * Where an address is: its town, else the town its post code belongs to, else its country.
 * @param towns the towns of the gazetteer by each of their folded names; a country as a whole stands under ''
 * @returns null for what cannot be placed without a guess
 */
export function placeOf(
  { names, countries, coded }: LookedUp,
  towns: ReadonlyMap<string, readonly Town[]>,
): Placed | null {
  const inCountry = (name: string, country: string): Town | undefined =>
    largest((towns.get(name) ?? []).filter((town) => town.country === country));
  const first = (pairs: readonly (readonly [name: string, country: string])[]): Town | undefined => {
    for (const [name, country] of pairs) {
      const town = inCountry(name, country);
      if (town) return town;
    }
    return undefined;
  };
  const written = first(countries.flatMap((country) => names.map((name) => [name, country] as const)));
  if (written) return found(written, 'town');
  const byCode = first(coded.map(({ name, country }) => [name, country] as const));
  if (byCode) return found(byCode, 'post code');
  const whole = first(countries.slice(0, 1).map((country) => ['', country] as const));
  if (whole) return found(whole, 'country');
  for (const name of countries.length ? [] : names) {
    const town = standsOut(towns.get(name) ?? []);
    if (town) return found(town, 'town');
  }
  return null;
}
