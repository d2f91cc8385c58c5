import { COUNTED_TO } from '@emporikon/core/people/counts';

/**
 * A count as SQL that looks at no more rows than it takes to know that there are more than are counted.
 * @param from what follows `FROM`, fixed SQL
 */
export const cappedCount = (from: string): string =>
  `(SELECT count(*)::int FROM (SELECT 1 FROM ${from} LIMIT ${COUNTED_TO + 1}) counted)`;
