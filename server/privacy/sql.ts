import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** Statements take of the values what they name; the database refuses any that stands in none. */
const named = (sql: string, values: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(values).filter(([key]) => new RegExp(`\\$${key}\\b`).test(sql)));

/** @returns the rows of a statement with `$name` in it */
export const ask = <Row extends object>(
  { sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>,
  sql: string,
  values: Record<string, unknown>,
): Promise<Row[]> =>
  sequelize.query<Row>(sql, { bind: named(sql, values), type: QueryTypes.SELECT, transaction: tx });

/** @returns how many rows a statement changed or deleted */
export async function change(
  context: Context,
  sql: string,
  values: Record<string, unknown>,
): Promise<number> {
  const [row] = await ask<{ n: number }>(
    context,
    `WITH done AS (${sql} RETURNING 1) SELECT count(*)::int AS n FROM done`,
    values,
  );
  return row?.n ?? 0;
}
