/** How a user writes days, numbers and sums (BCP 47); null follows their browser. */
export const name = '0017-locale';

export const up = `ALTER TABLE users ADD COLUMN locale text CHECK (locale <> '')`;
