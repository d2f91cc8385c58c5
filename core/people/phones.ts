import { parsePhoneNumberFromString, type CountryCode, type PhoneNumber } from 'libphonenumber-js/max';

export type PhoneType = 'mobile' | 'work' | 'home' | 'fax';

export interface ReadPhone {
  /** E.164 (ITU-T), e.g. `+351910555014`. */
  normalized: string;
  country: CountryCode | null;
  /** From the numbering plan alone; null where the plan does not tell. */
  type: PhoneType | null;
  /** Whether the number is in a range the plan assigns, and not only of a possible length. */
  valid: boolean;
}

const SPELT = /\b(?:extension|ext|apt|durchwahl|poste)\b\.?\s*\d{1,6}\s*$|\s(?:x|#)\s?\d{1,6}\s*$/i;

/** Trunk zero in brackets after a country code, as in `+44 (0)20`: written for readers, not dialled. */
const dropTrunkZero = (text: string): string => text.replace(/(\+|^00)(\d{1,3})\s*[-. ]?\(0\)\s*/, '$1$2 ');

/**
 * Ranges set aside for films, books and examples, which the numbering plans do not assign and libphonenumber therefore
 * calls invalid. Published by Ofcom (GB), ARCEP (FR), ACMA (AU), ComReg (IE) and PTS (SE); the digits are from memory.
 */
const FICTION =
  /^\+(?:44(?:7700900\d{3}|2079460\d{3}|1(?:1[3-8]|21|31|41|51|61)4960\d{3}|1914980\d{3}|2920180\d{3}|2896496\d{3}|1632960\d{3}|8081570\d{3})|33(?:19900|26191|35301|46571|53649|63998)\d{4}|61(?:[2378](?:5550|7010)\d{4}|49157\d{4})|35320 ?91\d{5}|46(?:7017406\d{2}|84650\d{4}|3139006\d{2}))$/;
/** Mobile ranges by their first digits, for numbers the library gives no kind. */
const MOBILE_START =
  /^\+(?:447|336|337|614|4915|4916|4917|316|3538[35679]|346|347|351 ?9|393|467|474|479|417[5-9]|436[5-9]|324|4[58][5-8])/;

/** Where a number without its country code is always written with a leading zero (ITU-T E.164 national prefixes). */
const TRUNK_ZERO = new Set('GB FR DE NL BE CH AT SE FI IE AU NZ ZA TR RO BG HR SI SK UA'.split(' '));

function typeOf(number: PhoneNumber, kind: ReturnType<PhoneNumber['getType']>): PhoneType | null {
  if (!kind && MOBILE_START.test(number.number)) return 'mobile';
  if (kind === 'MOBILE') return 'mobile';
  if (kind === 'FIXED_LINE' || kind === 'TOLL_FREE' || kind === 'SHARED_COST' || kind === 'UAN')
    return 'work';
  return null;
}

/** A number has a kind exactly where the plan assigns its range; asking for the kind is asking whether it is valid. */
const isValid = (number: PhoneNumber): boolean =>
  number.getType() !== undefined || FICTION.test(number.number);

function asRead(number: PhoneNumber): ReadPhone {
  const kind = number.getType();
  return {
    normalized: number.number,
    country: number.country ?? null,
    type: typeOf(number, kind),
    valid: kind !== undefined || FICTION.test(number.number),
  };
}

/**
 * Reads one phone number as people write it.
 * @param text the number, with or without country code, punctuation, `(0)`, `00` or an extension
 * @param countries ISO 3166-1 alpha-2 codes to try for a number without a country code, likeliest first
 * @returns the number in E.164, or null when no country makes it possible
 */
export function readPhone(text: string, countries: readonly string[] = []): ReadPhone | null {
  const written = dropTrunkZero(
    text
      .replace(SPELT, '')
      .replace(/[\u00a0\u2007\u202f]/g, ' ')
      .trim(),
  ).replace(/^00(?=[1-9])/, '+');
  const digits = written.replace(/\D/g, '').length;
  if (digits < 4 || digits > 17) return null;
  if (written.trim().startsWith('+')) {
    const number = parsePhoneNumberFromString(written.replace(/[/.]/g, ' '));
    return number?.isPossible() ? asRead(number) : null;
  }
  let possible: ReadPhone | null = null;
  for (const country of countries) {
    if (TRUNK_ZERO.has(country) && !/^\(?0/.test(written)) continue;
    const number = parsePhoneNumberFromString(written.replace(/[/.]/g, ' '), country as CountryCode);
    if (number && isValid(number)) return asRead(number);
    if (!possible && number?.isPossible()) possible = asRead(number);
  }
  return possible;
}

/** The same for a value typed by hand: E.164 or null. */
export function normalizePhone(text: string, countries: readonly string[] = []): string | null {
  return readPhone(text, countries)?.normalized ?? null;
}

/** Numbers come again and again. */
const mobiles = new Map<string, boolean>();
const REMEMBERED = 20_000;
/** Whether a number in E.164 is a mobile, which is one person's own, by its numbering plan. */
export function isMobile(normalized: string): boolean {
  let is = mobiles.get(normalized);
  if (is === undefined) {
    if (mobiles.size >= REMEMBERED) mobiles.clear();
    is = readPhone(normalized)?.type === 'mobile';
    mobiles.set(normalized, is);
  }
  return is;
}

/** A number in E.164 as people write it for abroad, e.g. `+351 910 555 014`; what is no number comes back as it is. */
export const showPhone = (normalized: string): string =>
  parsePhoneNumberFromString(normalized)?.formatInternational() ?? normalized;
