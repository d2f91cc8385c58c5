import { localeOf } from '../shell/format';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { numberFormat } from '../shell/intl';

/** A price in minor units that may have fractions, in the user's locale. */
export const price = (minor: number, currency: string): string =>
  numberFormat(localeOf(), {
    style: 'currency',
    currency,
    minimumFractionDigits: minorDigits(currency),
    maximumFractionDigits: minorDigits(currency),
  }).format(minor / 10 ** minorDigits(currency));
