import { fold } from '../people/text';

/** Languages in which an address may name its country. */
const LANGUAGES = ['en', 'de', 'fr', 'es', 'pt', 'it', 'nl', 'da', 'sv', 'nb', 'fi', 'pl', 'cs', 'hu', 'el'];
const LETTERS = Array.from({ length: 26 }, (_, at) => String.fromCharCode(65 + at));
const SHORT: Readonly<Record<string, string>> = {
  uk: 'GB',
  england: 'GB',
  scotland: 'GB',
  wales: 'GB',
  'northern ireland': 'GB',
  'great britain': 'GB',
  usa: 'US',
  'u s a': 'US',
  'united states of america': 'US',
  holland: 'NL',
  'the netherlands': 'NL',
  'republic of ireland': 'IE',
  'czech republic': 'CZ',
};

/** Codes that name no country, or a group of them (Unicode CLDR). */
const NO_COUNTRY = new Set(['EU', 'EZ', 'UN', 'QO', 'XA', 'XB', 'ZZ']);
/** Not one that has been replaced by another, as DD by DE. */
const isCountry = (code: string): boolean =>
  !NO_COUNTRY.has(code) && Intl.getCanonicalLocales(`und-${code}`)[0] === `und-${code}`;

/** The codes of all countries (ISO 3166-1 alpha-2, as the platform knows them). */
export const countryCodes = (): string[] =>
  LETTERS.flatMap((first) => LETTERS.map((second) => first + second))
    .filter(isCountry)
    .filter((code) => ENGLISH.of(code) !== undefined);
const ENGLISH = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' });

let names: ReadonlyMap<string, string> | undefined;
/** Folded names of all countries in the languages of addresses (Unicode CLDR, through the platform). */
function countryNames(): ReadonlyMap<string, string> {
  if (names) return names;
  const found = new Map<string, string>();
  const codes = countryCodes();
  for (const language of LANGUAGES) {
    const called = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
    for (const code of codes) {
      const name = called.of(code);
      if (name && !found.has(fold(name))) found.set(fold(name), code);
    }
  }
  for (const [name, code] of Object.entries(SHORT)) found.set(name, code);
  return (names = found);
}

/** The country (ISO 3166-1 alpha-2) that a text names and nothing else; null where it does not. */
export const countryNamed = (text: string): string | null => countryNames().get(fold(text)) ?? null;
