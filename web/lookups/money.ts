/** A price in minor units that may have fractions, in the user's locale. */
export const price = (minor: number, currency: string): string =>
  new Intl.NumberFormat(navigator.language, {
    style: 'currency',
    currency,
    minimumFractionDigits: 2,
    maximumFractionDigits: 2,
  }).format(minor / 100);
