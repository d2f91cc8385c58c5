import { countriesOfAddress } from '../people/addresses';
import { readPhone } from '../people/phones';

/** Where somebody is, as far as a number or an address tells. */
export interface Place {
  /** ISO 3166-1 alpha-2. */
  country: string;
  /** IANA name; null where the country has several and nothing says which. */
  timeZone: string | null;
  /** 0 to 1, of the country. */
  confidence: number;
  /** What says so. */
  because: string;
}

/** Countries of several zones where nearly everybody lives in one (IANA zone1970.tab, populations from memory). */
const MAIN: Readonly<Record<string, string>> = {
  PT: 'Europe/Lisbon',
  ES: 'Europe/Madrid',
  DE: 'Europe/Berlin',
  NL: 'Europe/Amsterdam',
  BE: 'Europe/Brussels',
  NO: 'Europe/Oslo',
  DK: 'Europe/Copenhagen',
  SE: 'Europe/Stockholm',
  FR: 'Europe/Paris',
  GB: 'Europe/London',
  IE: 'Europe/Dublin',
  UA: 'Europe/Kyiv',
  CN: 'Asia/Shanghai',
  NZ: 'Pacific/Auckland',
  CL: 'America/Santiago',
  EC: 'America/Guayaquil',
  BR: 'America/Sao_Paulo',
  MX: 'America/Mexico_City',
  AR: 'America/Argentina/Buenos_Aires',
  MY: 'Asia/Kuala_Lumpur',
  CY: 'Asia/Nicosia',
  UZ: 'Asia/Tashkent',
};

const codes = (text: string): Set<string> => new Set(text.split(' '));
/** Area codes of the North American plan by zone; those not named are Eastern. From memory of the published plan. */
const NORTH_AMERICA: readonly [zone: string, codes: Set<string>][] = [
  [
    'America/Los_Angeles',
    codes(
      '206 209 213 253 279 310 323 341 360 408 415 424 425 442 458 503 509 510 530 541 559 562 564 619 626 628 650 657 661 669 702 707 714 725 747 760 775 805 818 820 831 840 858 909 916 925 949 951 971',
    ),
  ],
  ['America/Vancouver', codes('236 250 257 604 672 778')],
  ['America/Phoenix', codes('480 520 602 623 928')],
  ['America/Denver', codes('303 307 385 406 435 505 575 719 720 801 915 970 983')],
  ['America/Boise', codes('208 986')],
  ['America/Edmonton', codes('368 403 587 780 825')],
  [
    'America/Chicago',
    codes(
      '205 210 214 217 218 224 225 228 251 254 256 262 270 281 309 312 314 316 318 319 320 325 331 334 337 346 361 402 405 409 414 417 430 432 447 464 469 479 501 504 507 512 515 531 534 539 563 572 573 580 601 605 608 612 615 618 620 629 630 636 641 651 659 660 662 682 701 708 712 713 715 726 730 731 737 763 769 773 779 785 806 815 816 817 830 832 847 850 870 872 901 903 913 918 920 931 936 938 940 945 952 956 972 979 985',
    ),
  ],
  ['America/Winnipeg', codes('204 431 584')],
  ['America/Regina', codes('306 474 639')],
  ['America/Anchorage', codes('907')],
  ['Pacific/Honolulu', codes('808')],
  ['America/Halifax', codes('506 782 902')],
  ['America/St_Johns', codes('709')],
];
const AUSTRALIA: Readonly<Record<string, string>> = {
  '2': 'Australia/Sydney',
  '3': 'Australia/Melbourne',
  '7': 'Australia/Brisbane',
};
const STATES: Readonly<Record<string, readonly [pattern: RegExp, zone: string][]>> = {
  US: [
    [/\b(?:CA|WA|OR|NV)\b/, 'America/Los_Angeles'],
    [/\bAZ\b/, 'America/Phoenix'],
    [/\b(?:CO|UT|MT|WY|NM|ID)\b/, 'America/Denver'],
    [/\b(?:IL|TX|MN|WI|MO|IA|LA|AL|MS|AR|OK|KS|NE|SD|ND|TN)\b/, 'America/Chicago'],
    [/\bAK\b/, 'America/Anchorage'],
    [/\bHI\b/, 'Pacific/Honolulu'],
    [/\b(?:NY|NJ|CT|MA|RI|NH|VT|ME|PA|DE|MD|DC|VA|WV|NC|SC|GA|FL|OH|MI|IN|KY)\b/, 'America/New_York'],
  ],
  AU: [
    [/\b(?:NSW|ACT)\b/, 'Australia/Sydney'],
    [/\bVIC\b/, 'Australia/Melbourne'],
    [/\bQLD\b/, 'Australia/Brisbane'],
    [/\bSA\b/, 'Australia/Adelaide'],
    [/\bWA\b/, 'Australia/Perth'],
    [/\bTAS\b/, 'Australia/Hobart'],
    [/\bNT\b/, 'Australia/Darwin'],
  ],
  CA: [
    [/\bBC\b/, 'America/Vancouver'],
    [/\bAB\b/, 'America/Edmonton'],
    [/\bMB\b/, 'America/Winnipeg'],
    [/\bSK\b/, 'America/Regina'],
    [/\b(?:ON|QC)\b/, 'America/Toronto'],
    [/\b(?:NS|NB|PE)\b/, 'America/Halifax'],
    [/\bNL\b/, 'America/St_Johns'],
  ],
};

/** The zones of a country as the platform knows them (CLDR); an older engine has them as a property. */
function zonesOf(country: string): readonly string[] {
  const locale = new Intl.Locale('und', { region: country }) as Intl.Locale & {
    timeZones?: string[];
    getTimeZones?: () => string[] | undefined;
  };
  return locale.getTimeZones?.() ?? locale.timeZones ?? [];
}

/** The one zone nearly everybody of a country lives in; null where there are several such. */
export function zoneOfCountry(country: string): string | null {
  const main = MAIN[country];
  if (main) return main;
  const zones = /^[A-Z]{2}$/.test(country) ? zonesOf(country) : [];
  return zones.length === 1 ? (zones[0] ?? null) : null;
}

/** The main country of a code that several share (libphonenumber's main countries). */
const SHARED_CODES: readonly [code: string, country: string][] = [
  ['+44', 'GB'],
  ['+47', 'NO'],
  ['+61', 'AU'],
  ['+39', 'IT'],
  ['+7', 'RU'],
  ['+1', 'US'],
];

function zoneOfNumber(e164: string, country: string): string | null {
  if (country === 'US' || country === 'CA') {
    const area = e164.slice(2, 5);
    const zone = NORTH_AMERICA.find(([, some]) => some.has(area))?.[0];
    return zone ?? (country === 'US' ? 'America/New_York' : 'America/Toronto');
  }
  if (country === 'AU') return AUSTRALIA[e164.charAt(3)] ?? null;
  return zoneOfCountry(country);
}

/**
 * The country of a telephone number by its country code (ITU-T E.164), and its zone where the number tells.
 * @param e164 the number with + and country code
 */
export function placeOfNumber(e164: string): Place | null {
  const country = readPhone(e164)?.country ?? SHARED_CODES.find(([code]) => e164.startsWith(code))?.[1];
  if (!country) return null;
  return {
    country,
    timeZone: zoneOfNumber(e164, country),
    confidence: 0.93,
    because: `the number begins with the code of ${country}`,
  };
}

/** The country an address is in, and its zone where country or state tells. */
export function placeOfAddress(address: string): Place | null {
  const [country, second] = countriesOfAddress(address);
  if (!country) return null;
  const state = STATES[country]?.find(([pattern]) => pattern.test(address))?.[1];
  return {
    country,
    timeZone: state ?? zoneOfCountry(country),
    confidence: second ? 0.75 : 0.92,
    because: 'the address',
  };
}

/** The surest place that numbers and addresses agree on, addresses before numbers where they do not. */
export function placeOf(known: { numbers: readonly string[]; addresses: readonly string[] }): Place | null {
  const byAddress = known.addresses.flatMap((address) => placeOfAddress(address) ?? [])[0];
  const byNumber = known.numbers.flatMap((number) => placeOfNumber(number) ?? []);
  const agreeing = byAddress && byNumber.find((one) => one.country === byAddress.country);
  if (byAddress && agreeing)
    return {
      country: byAddress.country,
      timeZone: byAddress.timeZone ?? agreeing.timeZone,
      confidence: 0.98,
      because: 'the address and the number',
    };
  return byAddress ?? byNumber[0] ?? null;
}

/** Whether a name is a time zone of the IANA database that the platform knows. */
export function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}
