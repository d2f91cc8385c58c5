import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { cappedCount } from '../db/counting';
import { requireActor, type Context } from '../commands/context';
import type { Handlers } from '../http/mount';
import { find } from './find';

interface Counts {
  arrivals: number;
  round: number;
  overdue: number;
  leads: number;
  deals: number;
  notices: number;
}

async function counts(context: Context): Promise<Counts> {
  const actor = requireActor(context);
  const now = DateTime.fromJSDate(context.now(), { zone: actor.timeZone });
  const [row] = await context.sequelize.query<Counts>(
    `SELECT ${cappedCount("captures WHERE state = 'waiting'")} AS arrivals,
            ${cappedCount('tasks WHERE done_at IS NULL AND assignee_id = :me AND due_at < :tomorrow')}
              + ${cappedCount("turns WHERE owner_id = :me AND turn = 'ours'")} AS round,
            ${cappedCount('tasks WHERE done_at IS NULL AND assignee_id = :me AND due_at < :today')} AS overdue,
            ${cappedCount("leads WHERE status IN ('new', 'working', 'qualified')")} AS leads,
            ${cappedCount('notices WHERE user_id = :me AND read_at IS NULL')} AS notices,
            (SELECT coalesce(sum(d.deals), 0)::int FROM deal_sums d JOIN stages s ON s.id = d.stage_id WHERE s.kind = 'open') AS deals`,
    {
      replacements: {
        me: actor.id,
        today: now.startOf('day').toJSDate(),
        tomorrow: now.startOf('day').plus({ days: 1 }).toJSDate(),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return row ?? { arrivals: 0, round: 0, overdue: 0, leads: 0, deals: 0, notices: 0 };
}

interface HistoryRow {
  id: string;
  at: Date;
  actor_id: string | null;
  actor: string | null;
  label: string;
  undone: boolean;
}

export const searchHandlers: Handlers = {
  'GET /api/search': async ({ query, context }) => ({
    items: await find(context, query.q, query.limit, query.kind),
  }),
  'GET /api/counts': async ({ context }) => counts(context),
  'GET /api/history': async ({ query, context }) => {
    const rows = await context.sequelize.query<HistoryRow>(
      `SELECT e.id, e.at, u.id AS actor_id, u.name AS actor, e.label, EXISTS (SELECT 1 FROM events x WHERE x.undoes = e.id) AS undone
         FROM events e LEFT JOIN users u ON u.id = e.actor_id
        WHERE e.changes @> ANY (ARRAY(SELECT jsonb_build_array(jsonb_build_object('table', :table::text, 'id', one.id))
                 FROM (SELECT :id::text AS id UNION ALL SELECT id::text FROM forwardings WHERE to_id = :id::uuid) one)) ORDER BY e.at DESC, e.seq DESC LIMIT 100`,
      {
        replacements: { table: query.table, id: query.id },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    return {
      items: rows.map((row) => ({
        id: row.id,
        at: row.at.toISOString(),
        actor: row.actor_id && row.actor ? { id: row.actor_id, name: row.actor } : null,
        label: row.label,
        undone: row.undone,
      })),
    };
  },
};
