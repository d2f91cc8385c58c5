import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** One session, those of a user, or everybody's where the user is null; `except` stays. */
type Which = { tokenHash: string } | { userId: string | null; except?: string | null };
/** So many fit into one notification. */
const TOLD_AT_ONCE = 100;

/**
 * Ends sessions, and with them the live streams they opened, on every process of this database.
 * @returns how many there were
 */
export async function endSessions(context: Context, which: Which): Promise<number> {
  const rows = await context.sequelize.query<{ token_hash: string }>(
    'tokenHash' in which
      ? 'DELETE FROM sessions WHERE token_hash = $tokenHash RETURNING token_hash'
      : "DELETE FROM sessions WHERE ($userId::uuid IS NULL OR user_id = $userId::uuid) AND token_hash <> coalesce($except, '') RETURNING token_hash",
    {
      bind: 'tokenHash' in which ? which : { userId: which.userId, except: which.except ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  for (let at = 0; at < rows.length; at += TOLD_AT_ONCE)
    await context.sequelize.query("SELECT pg_notify('emporikon_events', $payload)", {
      bind: {
        payload: JSON.stringify({
          endedSessions: rows.slice(at, at + TOLD_AT_ONCE).map((row) => row.token_hash),
        }),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    });
  return rows.length;
}
