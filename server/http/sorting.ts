import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { decodeCursor, encodeCursor, notOurCursor } from './paging';

/** A column to sort by: fixed SQL, and the type its key is compared as. */
export interface SortKey {
  sql: string;
  type: 'text' | 'integer' | 'smallint' | 'bigint' | 'real' | 'date' | 'timestamptz';
  /** Whether every row has a value in it. */
  isRequired?: boolean;
  /** What orders equal values, where it is not the id itself. */
  tie?: { sql: string; type: 'text' | 'uuid' };
}

export interface Sorting {
  /** The name of the column; a cursor is good for the order it was made in. */
  sort: string;
  key: SortKey;
  direction: 'asc' | 'desc';
  cursor?: string | undefined;
  limit: number;
}

interface Source {
  from: string;
  /** The column of the id. */
  id: string;
  where: string;
  replacements: Record<string, unknown>;
  /**
   * Where an index has each of some groups in order: the groups, as `each (id)`. Every one gives its first rows, and
   * those are put in order.
   */
  each?: string;
}

/**
 * Ids of one page in the order of one column, by key. Rows without a value come last, whichever way it is sorted.
 * @throws 422 for a cursor that was not made here
 */
export async function sortedIds(
  context: Context,
  { from, id, where, replacements, each }: Source,
  { sort, key, direction, cursor, limit }: Sorting,
): Promise<{ ids: string[]; next: string | null }> {
  const order = `${sort} ${direction}`;
  const [made = order, fromPart = '0', value = '', last = ''] = decodeCursor(cursor, 4);
  if (made !== order) throw notOurCursor();
  const tie = key.tie ?? { sql: id, type: 'uuid' };
  const further = direction === 'asc' ? '>' : '<';
  const parts = [
    {
      holds: key.isRequired ? 'true' : `${key.sql} IS NOT NULL`,
      key: `(${key.sql})::text`,
      // The first half says nothing new, but it can be looked up where the tie is a column of another table.
      after: `AND ${key.sql} ${further}= :value::${key.type} AND (${key.sql}, ${tie.sql}) ${further} (:value::${key.type}, :last::${tie.type})`,
      order: `${key.sql} ${direction}, ${tie.sql} ${direction}`,
    },
    ...(key.isRequired
      ? []
      : [
          {
            holds: `${key.sql} IS NULL`,
            key: "''",
            after: `AND ${id} ${further} :last::uuid`,
            order: `${id} ${direction}`,
          },
        ]),
  ];
  const found: { id: string; key: string; part: number }[] = [];
  for (const [at, part] of parts.entries()) {
    if (at < Number(fromPart) || found.length > limit) continue;
    const isGoingOn = last !== '' && at === Number(fromPart);
    const first = `SELECT ${id} AS id, ${part.key} AS key, ${key.sql} AS value FROM ${from} WHERE ${where} AND ${part.holds}
         ${isGoingOn ? part.after : ''} ORDER BY ${part.order} LIMIT :most`;
    const rows = await context.sequelize.query<{ id: string; key: string }>(
      each
        ? `SELECT page.id, page.key FROM ${each} CROSS JOIN LATERAL (${first}) page
            ORDER BY page.value ${direction}, page.id ${direction} LIMIT :most`
        : first,
      {
        replacements: { ...replacements, value, last, most: limit + 1 - found.length },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    found.push(...rows.map((row) => ({ ...row, part: at })));
  }
  const page = found.slice(0, limit);
  const end = page.at(-1);
  return {
    ids: page.map((row) => row.id),
    next: found.length > limit && end ? encodeCursor([order, String(end.part), end.key, end.id]) : null,
  };
}

/** Rows in the order of their ids; ids without a row are left out. */
export function inOrderOf<Row extends { id: string }>(ids: readonly string[], rows: readonly Row[]): Row[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}
