import type { Context } from './types';

/**
 * Waits until no other command holds any of these names, and holds them until this one ends. They are taken in one order,
 * so that two commands never wait for each other.
 */
export async function lockNames(
  context: Pick<Context, 'sequelize' | 'tx'>,
  names: readonly string[],
): Promise<void> {
  for (const name of [...new Set(names)].sort())
    await context.sequelize.query('SELECT pg_advisory_xact_lock(hashtextextended(:name, 0))', {
      replacements: { name },
      transaction: context.tx,
    });
}
