import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

type Which = { tokenHash: string } | { userId: string; except?: string | null };

/** Ends sessions, and with them the live streams they opened, on every process of this database. */
export async function endSessions(context: Context, which: Which): Promise<void> {
  const rows = await context.sequelize.query<{ token_hash: string }>(
    'tokenHash' in which
      ? 'DELETE FROM sessions WHERE token_hash = $tokenHash RETURNING token_hash'
      : "DELETE FROM sessions WHERE user_id = $userId AND token_hash <> coalesce($except, '') RETURNING token_hash",
    {
      bind: 'tokenHash' in which ? which : { userId: which.userId, except: which.except ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  if (!rows.length) return;
  await context.sequelize.query("SELECT pg_notify('emporikon_events', $payload)", {
    bind: { payload: JSON.stringify({ endedSessions: rows.slice(0, 100).map((row) => row.token_hash) }) },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
}
