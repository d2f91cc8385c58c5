import type { Present } from '@emporikon/contract/presence';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { notFound } from '../http/problems';

/** A page says every ten seconds that it is there; one that was closed without a word is forgotten after this. */
const FORGOTTEN_AFTER_S = 25;
/** A room full of colleagues is enough. */
const MOST_SHOWN = 30;

/** Whether the actor sees a record of any kind; what they do not see tells them nothing. */
async function requireSeen(context: Context, id: string): Promise<void> {
  const rows = await context.sequelize.query(
    `SELECT 1 FROM people WHERE id = :id UNION ALL SELECT 1 FROM companies WHERE id = :id UNION ALL SELECT 1 FROM leads WHERE id = :id
     UNION ALL SELECT 1 FROM deals WHERE id = :id UNION ALL SELECT 1 FROM tasks WHERE id = :id UNION ALL SELECT 1 FROM ledger_entries WHERE id = :id
     UNION ALL SELECT 1 FROM projects WHERE id = :id UNION ALL SELECT 1 FROM cases WHERE id = :id`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!rows.length) throw notFound('There is no such record.');
}

/**
 * Notes that a tab shows a record, which field is edited in it, or that it is gone. Everybody who shows the record is told
 * when that changes, and not each time it is said again.
 * @returns everybody else who is there; the actor's own other tabs too
 * @throws 404 where the actor sees no such record
 */
export async function noteHere(
  context: Context,
  recordId: string,
  { tab, field, isHere }: { tab: string; field: string | null; isHere: boolean },
): Promise<Present[]> {
  await requireSeen(context, recordId);
  const me = requireActor(context).id;
  const given = { recordId, tab, me, field: field ?? '', now: context.now() };
  const ask = <Row extends object>(sql: string): Promise<Row[]> =>
    context.sequelize.query<Row>(sql, {
      replacements: given,
      type: QueryTypes.SELECT,
      transaction: context.tx,
    });
  const since = `cast(:now AS timestamptz) - interval '${FORGOTTEN_AFTER_S} seconds'`;
  const [known] = await ask<{ field: string }>(
    `SELECT field FROM presence WHERE tab = :tab AND record_id = :recordId AND at > ${since}`,
  );
  await ask(
    isHere
      ? `INSERT INTO presence (tab, record_id, user_id, field, at) VALUES (:tab, :recordId, :me, :field, :now)
         ON CONFLICT (tab, record_id) DO UPDATE SET field = EXCLUDED.field, at = EXCLUDED.at WHERE presence.user_id = :me`
      : 'DELETE FROM presence WHERE tab = :tab AND record_id = :recordId AND user_id = :me',
  );
  await ask(`DELETE FROM presence WHERE record_id = :recordId AND at <= ${since}`);
  if (isHere ? known?.field !== given.field : known)
    await ask("SELECT pg_notify('emporikon_events', json_build_object('presence', :recordId)::text)");
  const rows = await ask<{ id: string; name: string; field: string }>(
    `SELECT u.id, u.name, max(p.field) AS field FROM presence p JOIN users u ON u.id = p.user_id
      WHERE p.record_id = :recordId AND p.tab <> :tab GROUP BY u.id, u.name ORDER BY u.name LIMIT ${MOST_SHOWN}`,
  );
  return rows.map((row) => ({ id: row.id, name: row.name, field: row.field || null, isMe: row.id === me }));
}
