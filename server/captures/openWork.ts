import type { OpenWork } from '@emporikon/contract/captures';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Capture } from '../db/models/captures';

/**
 * What is going on with each of these people, at most one thing each: the newest lead still open or parked, else the
 * newest open deal they have a part in. A message of theirs belongs to it.
 */
export function openWork(context: Context, personIds: readonly string[]): Promise<OpenWork[]> {
  if (!personIds.length) return Promise.resolve([]);
  return context.sequelize.query<OpenWork>(
    `SELECT DISTINCT ON (w."personId") w."personId", w.kind, w.id, w.title
       FROM (SELECT l.person_id AS "personId", 'lead' AS kind, l.id, l.title, 0 AS rank, l.created_at AS at
               FROM leads l WHERE l.status IN ('new', 'working', 'qualified', 'parked') AND l.person_id IN (:ids)
             UNION ALL
             SELECT r.person_id, 'deal', d.id, d.title, 1, d.created_at
               FROM deal_roles r JOIN deals d ON d.id = r.deal_id JOIN stages s ON s.id = d.stage_id
              WHERE s.kind = 'open' AND r.person_id IN (:ids)) w
      ORDER BY w."personId", w.rank, w.at DESC, w.id`,
    { replacements: { ids: [...personIds] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/**
 * What a capture goes to by itself: the lead or deal its conversation stands with, where that is still open, else what
 * is going on with the person.
 */
export async function workOfThread(
  context: Context,
  capture: Pick<Capture, 'thread'>,
  personId: string,
): Promise<OpenWork[]> {
  const open = await openWork(context, [personId]);
  if (!capture.thread) return open;
  const rows = await context.sequelize.query<OpenWork>(
    `SELECT :personId::uuid AS "personId", w.kind, w.id, w.title FROM ledger_entries n JOIN ledger_links k ON k.entry_id = n.id
       JOIN LATERAL (
         SELECT 'deal' AS kind, d.id, d.title FROM deals d JOIN stages s ON s.id = d.stage_id WHERE d.id = k.deal_id AND s.kind = 'open'
         UNION ALL SELECT 'lead', l.id, l.title FROM leads l WHERE l.id = k.lead_id AND l.status IN ('new', 'working', 'qualified', 'parked')) w ON true
      WHERE n.thread = :thread ORDER BY w.kind, n.at DESC LIMIT 1`,
    { replacements: { personId, thread: capture.thread }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.length ? rows : open;
}
