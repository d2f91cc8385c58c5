/** A written row: what it was and what it became; null where it did not or does not exist. */
export interface RowChange {
  table: string;
  id: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}

/** One field of one row that has another value than before. */
export interface FieldChange {
  table: string;
  id: string;
  field: string;
  /** Of a field that holds several by their names: which. */
  key: string | null;
  from: unknown;
  to: unknown;
  /** The row was made by it: nothing stood there before. */
  isMade: boolean;
  /** The row as it became, or was where it is gone. */
  row: Record<string, unknown>;
}

const isSame = (one: unknown, other: unknown): boolean =>
  JSON.stringify(one ?? null) === JSON.stringify(other ?? null);
const isBlank = (value: unknown): boolean =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && !value.length);
const isNamed = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What is held by names, and nothing that every object has: a key may be called “toString”. */
const ownOf = (value: unknown): Record<string, unknown> =>
  Object.assign(Object.create(null) as Record<string, unknown>, isNamed(value) ? value : {});

/** First and last state of each row, so that what was written in steps is told once; rows in their order. */
function firstToLast(changes: readonly RowChange[]): RowChange[] {
  const rows = new Map<string, RowChange>();
  for (const change of changes) {
    const known = rows.get(`${change.table}/${change.id}`);
    rows.set(`${change.table}/${change.id}`, known ? { ...known, after: change.after } : change);
  }
  return [...rows.values()];
}

/**
 * What a change did, field by field. A row that was made tells what it was made with, one that was removed what it held; what
 * was and is empty is left out.
 * @param fields the fields that are told of each table, in their order
 */
export function fieldChanges(
  changes: readonly RowChange[],
  fields: Readonly<Record<string, readonly string[]>>,
): FieldChange[] {
  return firstToLast(changes).flatMap(({ table, id, before, after }) => {
    const row = after ?? before;
    if (!row) return [];
    const isMade = before === null;
    /** What a row is made with unless somebody says otherwise tells nothing. */
    const isNothing = (value: unknown): boolean => isBlank(value) || (isMade && value === false);
    return (fields[table] ?? []).flatMap((field): FieldChange[] => {
      const [from, to] = [before?.[field] ?? null, after?.[field] ?? null];
      if (isSame(from, to) || (isBlank(from) && isNothing(to))) return [];
      if (!isNamed(from) && !isNamed(to)) return [{ table, id, field, key: null, from, to, isMade, row }];
      const [was, is] = [ownOf(from), ownOf(to)];
      return [...new Set([...Object.keys(was), ...Object.keys(is)])]
        .filter((key) => !isSame(was[key], is[key]) && !(isBlank(was[key]) && isBlank(is[key])))
        .map((key) => ({ table, id, field, key, from: was[key] ?? null, to: is[key] ?? null, isMade, row }));
    });
  });
}
