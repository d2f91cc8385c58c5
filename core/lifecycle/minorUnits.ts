/** No deal is worth more, and what is reckoned from sums of this size is still exact. */
export const MOST_MINOR = 9_000_000_000_000;

/**
 * Currencies whose minor unit has not two places, by ISO 4217 (list one; checked against the package currency-codes in
 * the tests). Written down here, so that no page has to load a list of all currencies.
 */
const PLACES: Readonly<Record<number, string>> = {
  0: 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XAG XAU XBA XBB XBC XBD XDR XOF XPD XPF XPT XSU XTS XUA XXX',
  3: 'BHD IQD JOD KWD LYD OMR TND',
  4: 'CLF UYW',
};
const DIGITS = new Map(
  Object.entries(PLACES).flatMap(([digits, codes]) =>
    codes.split(' ').map((code): [string, number] => [code, Number(digits)]),
  ),
);

/** Decimal places of a currency's minor unit: EUR 2, JPY 0, BHD 3. Unknown codes count as 2. */
export const minorDigits = (currency: string): number => DIGITS.get(currency.toUpperCase()) ?? 2;

/** A sum in minor units as a plain decimal: 1234 of EUR is `12.34`. */
export function decimalOf(minor: number, currency: string): string {
  const digits = minorDigits(currency);
  const text = String(Math.abs(minor)).padStart(digits + 1, '0');
  const shown = digits ? `${text.slice(0, -digits)}.${text.slice(-digits)}` : text;
  return minor < 0 ? `-${shown}` : shown;
}
