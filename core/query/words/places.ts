import { asTyped } from './tokens';

const NAMES = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' });
const LETTERS = Array.from({ length: 26 }, (_, at) => String.fromCharCode(65 + at));

/** What countries are also called, and what is theirs (common usage; from memory). */
const ALSO: Record<string, readonly string[]> = {
  AR: ['argentine', 'argentinian'],
  AT: ['austrian'],
  AU: ['australian'],
  BE: ['belgian'],
  BR: ['brazilian'],
  CA: ['canadian'],
  CH: ['swiss'],
  CN: ['chinese'],
  CZ: ['czech republic', 'czech'],
  DE: ['german'],
  DK: ['danish'],
  EE: ['estonian'],
  ES: ['spanish'],
  FI: ['finnish'],
  FR: ['french'],
  GB: ['uk', 'u.k', 'britain', 'great britain', 'england', 'british', 'english'],
  GR: ['greek'],
  HR: ['croatian'],
  HU: ['hungarian'],
  IE: ['republic of ireland', 'eire', 'irish'],
  IN: ['indian'],
  IS: ['icelandic'],
  IT: ['italian'],
  JP: ['japanese'],
  KR: ['korea', 'korean'],
  LT: ['lithuanian'],
  LU: ['luxembourgish'],
  LV: ['latvian'],
  MX: ['mexican'],
  NL: ['the netherlands', 'holland', 'dutch'],
  NO: ['norwegian'],
  NZ: ['new zealander'],
  PL: ['polish'],
  PT: ['portuguese'],
  RO: ['romanian'],
  SE: ['swedish'],
  SK: ['slovak'],
  SI: ['slovenian'],
  TR: ['turkey', 'turkish'],
  UA: ['ukrainian'],
  US: ['usa', 'u.s', 'us of a', 'united states of america', 'america', 'the states', 'american'],
  ZA: ['south african'],
};

/** Countries by their English names as typed, as ISO 3166-1 codes. */
export const COUNTRIES: ReadonlyMap<string, string> = new Map(
  LETTERS.flatMap((first) => LETTERS.map((second) => `${first}${second}`)).flatMap((code) => {
    const name = NAMES.of(code);
    if (!name || name === code || /^(?:EU|EZ|UN|QO|ZZ|XA|XB|DD|SU|YU|AN|CS|BU|FX|NT|TP|YD|ZR|UK)$/.test(code))
      return [];
    return [name, ...(ALSO[code] ?? [])].map((called) => [asTyped(called), code] as const);
  }),
);
