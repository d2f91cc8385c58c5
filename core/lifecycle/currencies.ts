import { code } from 'currency-codes';
import { minorDigits } from './minorUnits';

/** Whether ISO 4217 has the code. */
export const isCurrency = (currency: string): boolean => code(currency) !== undefined;

/** Divides whole numbers and rounds half away from zero (the commercial way, as DIN 1333 and Regulation (EC) 1103/97, art. 5). */
export function divideRounded(value: bigint, by: bigint): bigint {
  const isNegative = value < 0n !== by < 0n;
  const [a, b] = [value < 0n ? -value : value, by < 0n ? -by : by];
  const rounded = (2n * a + b) / (2n * b);
  return isNegative ? -rounded : rounded;
}

/**
 * A decimal number as whole units of its last place, exactly: `scaled('12.5', 3)` is 12500n. What is beyond the last
 * place is rounded half away from zero.
 * @param value plain digits with an optional point, as PostgreSQL's numeric is written, or a number
 * @throws RangeError when it is no plain decimal
 */
export function scaled(value: string | number, places: number): bigint {
  const text = typeof value === 'number' ? value.toFixed(Math.min(12, places + 2)) : value.trim();
  const found = /^(-?)(\d+)(?:\.(\d*))?$/.exec(text);
  if (!found) throw new RangeError(`“${value}” is not a plain decimal number`);
  const [, sign = '', whole = '0', part = ''] = found;
  const digits = BigInt(whole + part.padEnd(places, '0'));
  const kept = part.length > places ? divideRounded(digits, 10n ** BigInt(part.length - places)) : digits;
  return sign ? -kept : kept;
}

export interface Rate {
  currency: string;
  /** ISO day from which on it holds. */
  day: string;
  /** How much of the currency one unit of the house currency buys. */
  perHouse: string | number;
}
const RATE_PLACES = 8;

/** The rate that held on a day: the newest one not after it, else the earliest there is; null for a currency without one. */
export function rateOn(rates: readonly Rate[], currency: string, day: string): Rate | null {
  const own = rates.filter((rate) => rate.currency === currency).sort((a, b) => (a.day < b.day ? -1 : 1));
  return own.findLast((rate) => rate.day <= day) ?? own[0] ?? null;
}

/**
 * A sum in another currency at the rates of a day, by way of the house currency, with one rounding at the end.
 * @param minor in minor units of `from`
 * @returns minor units of `to`; null where a rate is missing
 */
export function convert(
  minor: number,
  { from, to, house, day }: { from: string; to: string; house: string; day: string },
  rates: readonly Rate[],
): number | null {
  if (from === to) return minor;
  const per = (currency: string): bigint | null => {
    if (currency === house) return 10n ** BigInt(RATE_PLACES);
    const rate = rateOn(rates, currency, day);
    return rate && scaled(rate.perHouse, RATE_PLACES);
  };
  const [perFrom, perTo] = [per(from), per(to)];
  if (!perFrom || !perTo) return null;
  const over = BigInt(minor) * perTo * 10n ** BigInt(minorDigits(to));
  return Number(divideRounded(over, perFrom * 10n ** BigInt(minorDigits(from))));
}
