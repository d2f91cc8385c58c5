import { localeOf } from '../shell/format';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';

/** A price in minor units that may have fractions, in the user's locale. */
export const price = (minor: number, currency: string): string =>
  new Intl.NumberFormat(localeOf(), {
    style: 'currency',
    currency,
    minimumFractionDigits: minorDigits(currency),
    maximumFractionDigits: minorDigits(currency),
  }).format(minor / 10 ** minorDigits(currency));
