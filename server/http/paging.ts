import { invalid } from './problems';

/** Cursors are opaque to clients: the sort keys of the last row they saw. */
export const encodeCursor = (keys: readonly string[]): string =>
  Buffer.from(JSON.stringify(keys)).toString('base64url');

/** @throws 422 for a cursor that was not made here */
export function decodeCursor(cursor: string | undefined, length: number): string[] {
  if (!cursor) return [];
  try {
    const keys: unknown = JSON.parse(Buffer.from(cursor, 'base64url').toString());
    if (Array.isArray(keys) && keys.length === length && keys.every((key) => typeof key === 'string'))
      return keys;
  } catch {
    // falls through to the refusal
  }
  throw invalid('This cursor is not one of ours; begin again without it.', {
    fields: { cursor: 'is not valid' },
  });
}

/**
 * One page of what was asked for with one row more than it holds.
 * @param keys the sort keys of a row, for the cursor to the next page
 */
export function pageOf<Row, Item>(
  rows: readonly Row[],
  limit: number,
  asItem: (row: Row) => Item,
  keys: (row: Row) => readonly string[],
): { items: Item[]; next: string | null } {
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  return {
    items: page.map(asItem),
    next: rows.length > page.length && last !== undefined ? encodeCursor(keys(last)) : null,
  };
}
