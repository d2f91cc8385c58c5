import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { linksTo, type Link, type RecordKind } from './links';

type Row = Record<string, unknown>;

/** All that a merge moved, so that it can be taken apart again to the last row. */
export interface Moved {
  /** What the ledger says of the merge; none of those before there was such an entry. */
  entry?: string;
  /** The record that went, as it stood, by its SQL columns. */
  record: Row;
  /** Rows that went along: by `table.column` their keys. */
  rows: Record<string, string[]>;
  /** Rows that both had, of which one went. */
  doubles: { table: string; row: Row }[];
  /** What the survivor's columns were and became, where they changed. */
  values: Record<string, { before: unknown; after: unknown }>;
  /** Claims whose fate changed. */
  fates: { id: string; before: string; after: string }[];
  /** Old ids that led to the record that went. */
  forwarded: string[];
  /** Addresses and numbers that only the one or the other had, to tell by later what belongs to whom. */
  own: { survivor: string[]; merged: string[] };
}

export const ask = <R extends object>(
  { sequelize, tx }: Context,
  sql: string,
  bind: Record<string, unknown> | unknown[],
): Promise<R[]> => sequelize.query<R>(sql, { bind, type: QueryTypes.SELECT, transaction: tx });

const run = ({ sequelize, tx }: Context, sql: string, bind: Record<string, unknown>): Promise<unknown> =>
  sequelize.query(sql, { bind, transaction: tx });

/** What a link's rows would be doubles by, as SQL between two aliases. */
const alike = ({ unique = [] }: Link): string =>
  unique.map((column) => `a.${column} = b.${column}`).join(' AND ');

/**
 * Points everything that pointed to one record to another. Where both had the same, the survivor's stays.
 * Tables and columns are fixed names of ours.
 */
export async function moveLinks(
  context: Context,
  kind: RecordKind,
  from: string,
  to: string,
): Promise<Pick<Moved, 'rows' | 'doubles'>> {
  const rows: Moved['rows'] = {};
  const doubles: Moved['doubles'] = [];
  for (const link of linksTo(context.tables, kind)) {
    if (link.unique?.length) {
      const gone = await ask<{ row: Row }>(
        context,
        `DELETE FROM ${link.table} a USING ${link.table} b WHERE a.${link.column} = $from::uuid AND b.${link.column} = $to::uuid AND ${alike(link)} RETURNING to_jsonb(a.*) AS row`,
        { from, to },
      );
      doubles.push(...gone.map(({ row }) => ({ table: link.table, row })));
    }
    if (link.across) {
      const gone = await ask<{ row: Row }>(
        context,
        `DELETE FROM ${link.table} t WHERE t.${link.column} = $from::uuid AND t.${link.across} = $to::uuid RETURNING to_jsonb(t.*) AS row`,
        { from, to },
      );
      doubles.push(...gone.map(({ row }) => ({ table: link.table, row })));
    }
    const moved = await ask<{ key: string }>(
      context,
      `UPDATE ${link.table} t SET ${link.column} = $to::uuid WHERE t.${link.column} = $from::uuid RETURNING ${link.key} AS key`,
      { from, to },
    );
    if (moved.length) rows[`${link.table}.${link.column}`] = moved.map((one) => one.key);
  }
  return { rows, doubles };
}

/** Points back what was moved and is still where it was moved to, and puts back what was double. */
export async function moveBack(
  context: Context,
  kind: RecordKind,
  moved: Moved,
  holder: string,
  to: string,
): Promise<void> {
  for (const link of linksTo(context.tables, kind)) {
    const keys = moved.rows[`${link.table}.${link.column}`];
    if (keys?.length)
      await run(
        context,
        `UPDATE ${link.table} t SET ${link.column} = $to::uuid WHERE t.${link.column} = $holder::uuid AND ${link.key} = ANY ($keys::text[])`,
        { to, holder, keys },
      );
  }
  for (const { table, row } of moved.doubles) await putRow(context, table, row);
}

/** Puts a row in as it was, unless it or what it stood on is no longer possible. */
export async function putRow(context: Context, table: string, row: Row): Promise<void> {
  await run(
    context,
    `INSERT INTO ${table} SELECT * FROM jsonb_populate_record(null::${table}, $row::jsonb) ON CONFLICT DO NOTHING`,
    { row: JSON.stringify(row) },
  );
}

/** A record as it stands, by its SQL columns, locked. */
export async function recordRow(context: Context, table: string, id: string): Promise<Row | null> {
  const [found] = await ask<{ row: Row }>(
    context,
    `SELECT to_jsonb(t.*) AS row FROM ${table} t WHERE t.id = $id::uuid FOR UPDATE`,
    { id },
  );
  return found?.row ?? null;
}

/** The ids that records which are gone now go by. */
export async function currentIds(
  context: Context,
  ids: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const rows = await ask<{ id: string; to_id: string }>(
    context,
    'SELECT id, to_id FROM forwardings WHERE id = ANY ($ids::uuid[])',
    { ids: [...ids] },
  );
  return new Map(rows.map((row) => [row.id, row.to_id]));
}

/** Lets an old id lead to another, and all that led to it. @returns those */
export async function forward(context: Context, from: string, to: string): Promise<string[]> {
  const led = await ask<{ id: string }>(
    context,
    'UPDATE forwardings SET to_id = $to::uuid WHERE to_id = $from::uuid RETURNING id',
    { from, to },
  );
  await run(
    context,
    'INSERT INTO forwardings (id, to_id) VALUES ($from::uuid, $to::uuid) ON CONFLICT (id) DO UPDATE SET to_id = excluded.to_id',
    { from, to },
  );
  return led.map((one) => one.id);
}

/** The record is there again: its id leads nowhere else, and what led to it does so again. */
export async function stopForwarding(context: Context, id: string, led: readonly string[]): Promise<void> {
  await run(context, 'DELETE FROM forwardings WHERE id = $id::uuid', { id });
  await run(context, 'UPDATE forwardings SET to_id = $id::uuid WHERE id = ANY ($led::uuid[])', {
    id,
    led: [...led],
  });
}
