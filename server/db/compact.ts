import type { Transaction, Sequelize } from 'sequelize';

/**
 * Puts together the rows of a table whose rows add up, so that it stays small. What others add meanwhile is left alone.
 * @param keys the columns that name what is counted, and `sums` those that add up; fixed names
 */
export const compactRows = (
  { sequelize, tx }: { sequelize: Sequelize; tx: Transaction },
  table: string,
  keys: readonly string[],
  sums: readonly string[],
): Promise<unknown> =>
  sequelize.query(
    `WITH gone AS (DELETE FROM ${table} RETURNING *)
     INSERT INTO ${table} (${[...keys, ...sums].join(', ')})
     SELECT ${[...keys, ...sums.map((sum) => `sum(${sum})`)].join(', ')} FROM gone
      GROUP BY ${keys.join(', ')} HAVING ${sums.map((sum) => `sum(${sum}) <> 0`).join(' OR ')}`,
    { transaction: tx },
  );
