import type { LiveEvent } from '@emporikon/contract/settings';

type Touched = NonNullable<LiveEvent['touched']>[number];

const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

function collect(value: unknown, into: Set<string>): void {
  if (typeof value === 'string') {
    if (ID.test(value)) into.add(value);
  } else if (Array.isArray(value)) for (const one of value) collect(one, into);
  else if (value && typeof value === 'object') for (const one of Object.values(value)) collect(one, into);
}

/** The ids of the records that an answer is about or names. */
export function shownIds(about: readonly (string | null | undefined)[], answer: unknown): Set<string> {
  const ids = new Set<string>();
  collect(about, ids);
  collect(answer, ids);
  return ids;
}

/**
 * Whether a change has to do with what is shown.
 * @param touched the rows of the change, each with the ids of the records it belongs to
 * @param tables the tables that are looked at
 * @param shown the ids that are shown; undefined for a list, in which any row of its tables may come to stand
 */
export const matters = (
  touched: readonly Touched[],
  tables: readonly string[],
  shown?: ReadonlySet<string>,
): boolean =>
  touched.some(
    ({ table, id, of }) =>
      tables.includes(table) && (!shown || !of || shown.has(id) || of.some((one) => shown.has(one))),
  );
