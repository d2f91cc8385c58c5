import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { EventRow } from '../db/models/ledger';

/**
 * The events by which the program itself, with nobody asking, went on with an event: newest first.
 * @param event the one that is to be taken back
 */
export async function findFollowingEvents(context: Context, { id }: EventRow): Promise<string[]> {
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM events e
      WHERE e.cause_id = :id AND e.actor_id IS NULL AND e.undoes IS NULL
        AND NOT EXISTS (SELECT 1 FROM events u WHERE u.undoes = e.id)
      ORDER BY e.at DESC`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => row.id);
}
