import { QueryTypes, type Transaction } from 'sequelize';
import { pastSight } from '../commands/sight';
import type { Followed, Tools, Within } from '../commands/types';
import { noticesOf, type Colleague, type Told } from './tell';

const CONCERNS = new Set(['ledger_entries', 'tasks', 'people', 'companies', 'leads', 'deals']);
/** Of one change nobody is told more than so much; the rest is one line that says how much. */
const MOST_EACH = 20;

const colleaguesOf = (tools: Tools, tx: Transaction): Promise<Colleague[]> =>
  tools.sequelize.query<Colleague>(
    'SELECT id, name, email, time_zone AS "timeZone" FROM users WHERE active',
    { type: QueryTypes.SELECT, transaction: tx },
  );

/** Of many of one kind for one colleague the first, and how many more there are. */
function shorten(told: readonly Told[]): Told[] {
  const kept: Told[] = [];
  const counts = new Map<string, number>();
  for (const one of told) {
    const key = `${one.userId} ${one.kind}`;
    const count = (counts.get(key) ?? 0) + 1;
    counts.set(key, count);
    if (count <= MOST_EACH) kept.push(one);
  }
  for (const [key, count] of counts) {
    const [userId = '', ...kind] = key.split(' ');
    if (count > MOST_EACH)
      kept.push({ userId, kind: kind.join(' ') as Told['kind'], title: `${count - MOST_EACH} more` });
  }
  return kept;
}

async function write(tools: Tools, tx: Transaction, event: Followed, told: readonly Told[]): Promise<void> {
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
  await tools.sequelize.query(
    `WITH told AS (
       INSERT INTO notices (user_id, kind, title, detail, actor_id, event_id, entry_id, task_id, person_id, company_id, lead_id, deal_id, at)
       SELECT r.user_id, r.kind, r.title, r.detail, :actorId, :eventId, r.entry_id, r.task_id, r.person_id, r.company_id, r.lead_id, r.deal_id, :at
         FROM jsonb_to_recordset(:rows::jsonb) r (user_id uuid, kind text, title text, detail text, entry_id uuid, task_id uuid, person_id uuid, company_id uuid, lead_id uuid, deal_id uuid)
       RETURNING user_id)
     SELECT pg_notify('emporikon_events', json_build_object('command', 'notify', 'touched', json_build_array(json_build_object('table', 'notices', 'id', user_id)),
              'readers', json_build_object(user_id::text, json_build_array(user_id)))::text) FROM (SELECT DISTINCT user_id FROM told) t`,
    {
      replacements: { rows: JSON.stringify(rows), actorId: event.actorId, eventId: event.id, at: event.at },
      transaction: tx,
    },
  );
}

/** Tells colleagues what a change has to do with them; a change that is taken back is no longer told. */
export const followNotices: Within = async (tools, tx, event) => {
  const asked = { sequelize: tools.sequelize, tx };
  if (event.undoes)
    return pastSight(asked, async () => {
      await tools.sequelize.query('DELETE FROM notices WHERE event_id = :undone', {
        replacements: { undone: event.undoes },
        transaction: tx,
      });
    });
  if (!event.changes.some(({ table }) => CONCERNS.has(table)) || event.command.startsWith('import')) return;
  const told = shorten(noticesOf(event, await colleaguesOf(tools, tx)));
  if (told.length) await pastSight(asked, () => write(tools, tx, event, told));
};
