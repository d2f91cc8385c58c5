import { compileRows, compileTotals, compileValues, hasEmptyPart } from '@emporikon/core/query/sql/compile';
import { inGroupOrder } from '@emporikon/core/query/grouping';
import type { Schema, Statement } from '@emporikon/core/query/sql/scope';
import type { GroupTotals, PlainValue, Query } from '@emporikon/core/query/types';
import { createHash } from 'node:crypto';
import type { Context } from '../commands/context';
import { clientOf } from '../db/prepared';
import { decodeCursor, encodeCursor, notOurCursor } from '../http/paging';
import { invalid } from '../http/problems';

async function run<Row extends object>(context: Context, { text, values }: Statement): Promise<Row[]> {
  return (await clientOf(context).query<Row>({ text, values })).rows;
}

/** A cursor is good for the question it was made for. */
const signatureOf = ({ kind, filter, groups, order }: Query): string =>
  createHash('sha256')
    .update(JSON.stringify([kind, filter, groups, order]))
    .digest('base64url')
    .slice(0, 16);

/** The place of typed letters in the order of the texts that a query stands in. */
function startOf({ kind, groups, order }: Query, schema: Schema, typed: string): string {
  const [first] = order ?? [];
  const field = first && schema.registry[kind].fields.get(first.field);
  if (groups?.length || field?.type !== 'text')
    throw invalid('The records do not stand in the order of a text, so that no letter can be gone to.');
  const text = typed.trim().replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
  return first?.direction === 'desc' ? `${text}\uffff` : text;
}

const PARTS = ['filled', 'empty'] as const;

/**
 * The ids of one page of a query, in its groups and its order, and what each is grouped under.
 * @param query checked by `checkQuery`
 * @param page.from where the records stand in the order of a text: begin with the first that is no earlier than it
 * @throws 422 for a cursor that was not made here for this query, or where `from` has no text to be looked up in
 */
export async function pageOfIds(
  context: Context,
  schema: Schema,
  query: Query,
  { cursor, limit, from }: { cursor?: string | undefined; limit: number; from?: string | undefined },
): Promise<{ ids: string[]; groups: (string | null)[][]; next: string | null }> {
  const [signature = signatureOf(query), fromPart = 'filled', keys = '[]', id = ''] = decodeCursor(cursor, 4);
  if (signature !== signatureOf(query)) throw notOurCursor();
  const bound = from === undefined ? undefined : startOf(query, schema, from);
  const last = JSON.parse(keys) as (string | null)[];
  const found: { row: Record<string, string | null> & { id: string }; part: string; keys: number }[] = [];
  for (const part of hasEmptyPart(query, schema) ? PARTS : PARTS.slice(0, 1)) {
    if (found.length > limit || (fromPart === 'empty' && part === 'filled')) continue;
    const after = id && part === fromPart ? { keys: last, id } : undefined;
    const statement = compileRows(query, schema, {
      limit: limit + 1 - found.length,
      part,
      after,
      from: bound,
    });
    const rows = await run<Record<string, string | null> & { id: string }>(context, statement);
    found.push(...rows.map((row) => ({ row, part, keys: statement.keys })));
  }
  const page = found.slice(0, limit);
  const end = page.at(-1);
  const keysOfEnd = end ? Array.from({ length: end.keys }, (_, at) => end.row[`k${at}`] ?? null) : [];
  return {
    ids: page.map(({ row }) => row.id),
    groups: page.map(({ row }) => (query.groups ?? []).map((_, at) => row[`g${at}`] ?? null)),
    next:
      found.length > limit && end
        ? encodeCursor([signature, end.part, JSON.stringify(keysOfEnd), end.row.id])
        : null,
  };
}

/** More groups than these are not answered. */
const MOST_GROUPS = 2000;

/** The totals of everything, then of the groups, outermost first. @returns also whether there are more groups than are told */
export async function totalsOf(
  context: Context,
  schema: Schema,
  query: Query,
): Promise<{ totals: GroupTotals[]; hasMore: boolean }> {
  const rows = await run<Record<string, unknown>>(context, compileTotals(query, schema, MOST_GROUPS + 1));
  const groups = query.groups?.length ?? 0;
  const numberOf = (value: unknown): number | string | null => {
    if (value === null || value === undefined) return null;
    const text = String(value);
    return /^-?\d+(\.\d+)?(e[+-]?\d+)?$/i.test(text) ? Number(text) : text;
  };
  const totals = rows.slice(0, MOST_GROUPS).map((row) => {
    const summed = Number(row.level).toString(2).replaceAll('0', '').length;
    return {
      keys: Array.from({ length: groups - (Number(row.level) ? summed : 0) }, (_, at) => {
        const key = row[`s${at}`];
        return key === null || key === undefined ? null : String(key);
      }),
      count: Number(row.count),
      totals: (query.totals ?? []).map((_, at) => numberOf(row[`t${at}`])),
    };
  });
  return {
    totals: inGroupOrder(totals, query, schema.registry[query.kind]),
    hasMore: rows.length > MOST_GROUPS,
  };
}

/** What a record says, and the ids of the records that fields of it name. */
export interface Said {
  values: Record<string, PlainValue>;
  links: Record<string, string | null>;
}

/** What some records say in some fields, by their id. */
export async function valuesOf(
  context: Context,
  schema: Schema,
  query: { kind: Query['kind']; columns: readonly string[] },
  ids: readonly string[],
): Promise<Map<string, Said>> {
  if (!ids.length) return new Map();
  const rows = await run<Said & { id: string }>(context, compileValues(query, schema, ids));
  return new Map(rows.map(({ id, values, links }) => [id, { values, links }]));
}
