import type { Transaction } from 'sequelize';
import { askPrepared } from '../db/prepared';
import type { Actor, Context, Tools } from './types';

const becomes = (
  context: Pick<Context, 'sequelize' | 'tx'>,
  role: 'none' | 'emporikon_member',
): Promise<unknown> => context.sequelize.query(`SET LOCAL ROLE ${role}`, { transaction: context.tx });

/**
 * Makes a transaction somebody's: from here on the database shows only what they may see (row-level security). What
 * nobody asks for, the program itself does, and sees everything.
 */
export async function enterAs(
  tools: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  actor: Pick<Actor, 'id'> | null,
): Promise<void> {
  if (!actor) return void (await becomes({ ...tools, tx }, 'none'));
  await askPrepared(
    { tx },
    `SELECT set_config('role', 'emporikon_member', true), set_config('emporikon.reader', $actor::text, true),
            set_config('emporikon.audiences', (SELECT coalesce(array_agg(audience_id), '{}')::text FROM audience_members WHERE user_id = $actor::uuid), true)`,
    { actor: actor.id },
  );
}

/**
 * Runs a part of a command past what its actor may see: to find out whether something hidden is in the way, or to move
 * all that belongs to a record that they may change. What it gives back must not tell them what they cannot see.
 */
export async function pastSight<Result>(
  context: Pick<Context, 'sequelize' | 'tx'>,
  run: () => Promise<Result>,
): Promise<Result> {
  const [now] = await askPrepared<{ role: string }>(context, "SELECT current_setting('role') AS role", {});
  if (now?.role !== 'emporikon_member') return run();
  await becomes(context, 'none');
  const result = await run();
  await becomes(context, 'emporikon_member');
  return result;
}
