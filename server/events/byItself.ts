import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { EventRow } from '../db/models/ledger';

/** What the program does by itself after somebody did something; it never stands in the way of taking that back. */
const BY_ITSELF = ['look up'];

/** Tables that only note what happened outside. A row in them is not built on a record. */
export const ONLY_NOTES = new Set(['look_ups', 'signals']);

/**
 * The events by which the program itself, with nobody asking, went on with what an event made: newest first.
 * @param event the one that is to be taken back
 */
export async function doneByItself(context: Context, event: EventRow): Promise<string[]> {
  const made = event.changes.filter((change) => !change.before).map((change) => change.id);
  if (!made.length) return [];
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM events e
      WHERE e.seq > :seq AND e.actor_id IS NULL AND e.command IN (:commands)
        AND EXISTS (SELECT 1 FROM jsonb_array_elements(e.changes) c
                     WHERE c->>'id' IN (:made) OR c->'after'->>'personId' IN (:made) OR c->'after'->>'companyId' IN (:made) OR c->'after'->>'leadId' IN (:made))
        AND NOT EXISTS (SELECT 1 FROM events u WHERE u.undoes = e.id)
      ORDER BY e.seq DESC`,
    {
      replacements: { seq: event.seq, commands: BY_ITSELF, made },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map((row) => row.id);
}
