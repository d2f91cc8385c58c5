import type { Transaction } from 'sequelize';
import { askPrepared } from '../db/prepared';
import { unseenTables } from './rights';
import type { Actor, Context, Tools } from './types';

/** As which role of the database somebody works; `limited` are those who do not see every kind of record. */
const MEMBERS = { member: 'emporikon_member', limited: 'emporikon_limited' } as const;
type Member = (typeof MEMBERS)[keyof typeof MEMBERS];
const isMember = (role: string): role is Member => (Object.values(MEMBERS) as string[]).includes(role);

const becomes = (context: Pick<Context, 'sequelize' | 'tx'>, role: 'none' | Member): Promise<unknown> =>
  context.sequelize.query(`SET LOCAL ROLE ${role}`, { transaction: context.tx });

/** Names of tables as PostgreSQL writes a list. */
const listOf = (tables: readonly string[]): string => `{${tables.join(',')}}`;

/**
 * Makes a transaction somebody's: from here on the database shows only what they may see (row-level security). What
 * nobody asks for, the program itself does, and sees everything.
 */
export async function enterAs(
  tools: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  actor: Pick<Actor, 'id' | 'role' | 'granted'> | null,
): Promise<void> {
  if (!actor) return void (await becomes({ ...tools, tx }, 'none'));
  const unseen = unseenTables(actor);
  await askPrepared(
    { tx },
    `SELECT set_config('role', $role::text, true), set_config('emporikon.unseen', $unseen::text, true), set_config('emporikon.reader', $actor::text, true),
            set_config('emporikon.audiences', (SELECT coalesce(array_agg(audience_id), '{}')::text FROM audience_members WHERE user_id = $actor::uuid), true)`,
    {
      actor: actor.id,
      role: unseen.length ? MEMBERS.limited : MEMBERS.member,
      unseen: listOf(unseen),
    },
  );
}

/** Runs a part of a command past the kinds of records that a role leaves out, but not past who may see a record. */
export async function pastRole<Result>(
  context: Pick<Context, 'tx'>,
  actor: Actor,
  run: () => Promise<Result>,
): Promise<Result> {
  const unseen = unseenTables(actor);
  if (!unseen.length) return run();
  const say = (tables: readonly string[]): Promise<unknown> =>
    askPrepared(context, "SELECT set_config('emporikon.unseen', $unseen::text, true)", {
      unseen: listOf(tables),
    });
  await say([]);
  try {
    return await run();
  } finally {
    // A transaction that failed takes no further word, and shows nothing more either.
    await say(unseen).catch(() => undefined);
  }
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
  const role = now?.role ?? '';
  if (!isMember(role)) return run();
  await becomes(context, 'none');
  const result = await run();
  await becomes(context, role);
  return result;
}
