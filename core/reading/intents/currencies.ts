import currencies from '../lexicon/currencies.json';
import moneyNames from '../lexicon/moneyNames.json';

const ENDS = '(?!\\p{L})';
const all = Object.entries(moneyNames).flatMap(([of, written]) =>
  written.split(' ').map((name) => ({ of, name })),
);
const MEANT = new Map(all.map(({ of, name }) => [name, of]));
const quoted = (name: string): string => name.replace(/[$.]/g, '\\$&');
const longestFirst = (list: readonly string[]): string[] => [...list].sort((a, b) => b.length - a.length);
const isSign = (name: string): boolean => /[^\p{L}]$/u.test(name) || name.length === 1;
const isCode = (name: string): boolean => /^[a-z]{3}$/.test(name);

const names = longestFirst([...MEANT.keys()]);
const isLettered = (name: string): boolean => /^\p{L}/u.test(name);
const atBeginning = (words: readonly string[]): string => `(?<!\\p{L})(?:${words.map(quoted).join('|')})`;
const byThemselves = (words: readonly string[]): string => `${atBeginning(words)}${ENDS}`;
const signs = names.filter(isSign);

/**
 * Signs and codes, which stand before a sum as well as behind it: `€`, `R$`, `chf`; "for$50" is dollars. As parts of a pattern, in
 * small letters.
 */
export const CURRENCY_SIGN = `[${signs.filter((name) => !isLettered(name)).join('')}]|${atBeginning(signs.filter(isLettered))}|${byThemselves(names.filter(isCode))}`;
/** Those and the names of money, which stand behind a sum: `pounds`, `zł`. */
export const CURRENCY_NAME = `${CURRENCY_SIGN}|${byThemselves(names.filter((name) => !isSign(name) && !isCode(name)))}`;

const LANDS = currencies.byLand.split(' ');
const LOCAL = new Map(
  LANDS.flatMap((land, at) => (at % 2 === 0 ? [[land, LANDS[at + 1] ?? ''] as const] : [])),
);

/** What is paid with in a land: ISO 3166-1 alpha-2 to ISO 4217; undefined for no land we know. */
export const moneyOf = (land: string): string | undefined => LOCAL.get(land);

/** Names that more than one money has; the first is meant where the land has none of them. */
const SHARED: Readonly<Record<string, readonly string[]>> = {
  dollar: [
    'USD',
    'CAD',
    'AUD',
    'NZD',
    'SGD',
    'HKD',
    'JMD',
    'BBD',
    'TTD',
    'FJD',
    'NAD',
    'MXN',
    'ARS',
    'CLP',
    'COP',
  ],
  crown: ['SEK', 'DKK', 'NOK', 'ISK', 'CZK'],
  peso: ['MXN', 'ARS', 'CLP', 'COP', 'UYU', 'DOP', 'PHP'],
  franc: ['CHF'],
  rupee: ['INR', 'PKR', 'LKR', 'NPR', 'MUR'],
};

/**
 * The currency that a sign or name stands for, ISO 4217; null where it is none.
 * @param local the money of the land, which a dollar or a crown is where it can be
 */
export function currencyCalled(name: string, local: string): { currency: string; isSure: boolean } | null {
  const meant = MEANT.get(name.toLowerCase());
  if (!meant) return null;
  const shared = SHARED[meant];
  if (!shared) return { currency: meant, isSure: true };
  const isLocal = shared.includes(local);
  return { currency: isLocal ? local : (shared[0] ?? meant), isSure: isLocal || meant !== 'crown' };
}
