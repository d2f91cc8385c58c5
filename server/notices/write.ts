import { QueryTypes, type Transaction } from 'sequelize';
import type { Tools } from '../commands/types';
import { mailNotices } from './mail';
import type { Told } from './told';

/**
 * Writes notices and tells the open pages of whoever they are for, in one transaction.
 * @param because the change they come of; taken back with it
 */
export async function writeNotices(
  tools: Pick<Tools, 'sequelize' | 'newId' | 'now' | 'outside'>,
  tx: Transaction,
  because: { id: string; actorId: string | null; at: Date },
  told: readonly Told[],
): Promise<void> {
  if (!told.length) return;
  const rows = told.map((one) => ({
    user_id: one.userId,
    kind: one.kind,
    title: one.title.slice(0, 300),
    detail: one.detail ?? '',
    entry_id: one.entryId ?? null,
    task_id: one.taskId ?? null,
    person_id: one.personId ?? null,
    company_id: one.companyId ?? null,
    lead_id: one.leadId ?? null,
    deal_id: one.dealId ?? null,
  }));
  const written = await tools.sequelize.query<{ id: string; kind: string; userId: string }>(
    `WITH told AS (
       INSERT INTO notices (user_id, kind, title, detail, actor_id, event_id, entry_id, task_id, person_id, company_id, lead_id, deal_id, at)
       SELECT r.user_id, r.kind, r.title, r.detail, :actorId, :eventId, r.entry_id, r.task_id, r.person_id, r.company_id, r.lead_id, r.deal_id, :at
         FROM jsonb_to_recordset(:rows::jsonb) r (user_id uuid, kind text, title text, detail text, entry_id uuid, task_id uuid, person_id uuid, company_id uuid, lead_id uuid, deal_id uuid)
       RETURNING id, kind, user_id),
       heard AS (SELECT pg_notify('emporikon_events', json_build_object('command', 'notify', 'touched', json_build_array(json_build_object('table', 'notices', 'id', user_id)),
              'readers', json_build_object(user_id::text, json_build_array(user_id)))::text) FROM (SELECT DISTINCT user_id FROM told) t)
     SELECT id, kind, user_id AS "userId" FROM told WHERE (SELECT count(*) FROM heard) >= 0`,
    {
      replacements: {
        rows: JSON.stringify(rows),
        actorId: because.actorId,
        eventId: because.id,
        at: because.at,
      },
      type: QueryTypes.SELECT,
      transaction: tx,
    },
  );
  await mailNotices(tools, tx, written);
}
