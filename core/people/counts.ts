/** So far counts go; one more stands for all beyond. */
export const COUNTED_TO = 1000;

/** Whether a count says only that there are more than are counted. */
export const isBeyond = (count: number): boolean => count > COUNTED_TO;

const ENGLISH = new Intl.PluralRules('en');

/** The noun that goes with a count: “person” with 1, “people” with any other; without a plural, an s is added. */
export const nounFor = (count: number, one: string, many = `${one}s`): string =>
  ENGLISH.select(count) === 'one' ? one : many;

/** A count with its noun, as a message without a reader's locale says it: “1 card”, “3 cards”. */
export const countedPlainly = (count: number, one: string, many?: string): string =>
  `${count} ${nounFor(count, one, many)}`;
