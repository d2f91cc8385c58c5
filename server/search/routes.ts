import type { SearchHit } from '@emporikon/contract/settings';
import { fold } from '@emporikon/core/people/text';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { whoActs, type Context } from '../commands/context';
import type { Handlers } from '../http/mount';

const SQL = `
  SELECT * FROM (
    SELECT 'person' AS kind, p.id, p.full_name AS label, concat_ws(' · ', p.job_title, c.name) AS hint, 0 AS rank
      FROM people p LEFT JOIN companies c ON c.id = p.company_id
     WHERE p.name_key LIKE ALL (ARRAY[:words]::text[])
        OR EXISTS (SELECT 1 FROM contact_points k WHERE k.person_id = p.id AND ((k.kind = 'email' AND k.normalized LIKE :prefix) OR (:digits <> '' AND k.kind = 'phone' AND k.normalized LIKE :digits)))
    UNION ALL
    SELECT 'company', id, name, coalesce(domain, ''), 1 FROM companies WHERE name_key LIKE ALL (ARRAY[:words]::text[]) OR domain LIKE :prefix
    UNION ALL
    SELECT 'deal', d.id, d.title, s.name, 2 FROM deals d JOIN stages s ON s.id = d.stage_id WHERE lower(d.title) LIKE :inside
    UNION ALL
    SELECT 'lead', id, title, status, 3 FROM leads WHERE lower(title) LIKE :inside
  ) found ORDER BY rank, label, id LIMIT :limit`;

const escapeLike = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

async function search(context: Context, q: string, limit: number): Promise<SearchHit[]> {
  const plain = q.trim().toLowerCase();
  if (!plain) return [];
  const words = fold(plain)
    .split(' ')
    .filter(Boolean)
    .map((word) => `%${word}%`);
  const digits = plain.replace(/\D/g, '').replace(/^0+/, '');
  const rows = await context.sequelize.query<SearchHit & { rank: number }>(SQL, {
    replacements: {
      words: words.length ? words : ['%no such name%'],
      prefix: `${escapeLike(plain)}%`,
      inside: `%${escapeLike(plain)}%`,
      digits: digits.length >= 4 && !/[a-z]/.test(plain) ? `%${digits}%` : '',
      limit,
    },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return rows.map(({ kind, id, label, hint }) => ({ kind, id, label, hint }));
}

interface Counts {
  arrivals: number;
  round: number;
  overdue: number;
  leads: number;
  deals: number;
}

async function counts(context: Context): Promise<Counts> {
  const actor = whoActs(context);
  const now = DateTime.fromJSDate(context.now(), { zone: actor.timeZone });
  const [row] = await context.sequelize.query<Counts>(
    `SELECT (SELECT count(*)::int FROM captures WHERE state = 'waiting') AS arrivals,
            (SELECT count(*)::int FROM tasks WHERE done_at IS NULL AND assignee_id = :me AND due_at < :tomorrow) AS round,
            (SELECT count(*)::int FROM tasks WHERE done_at IS NULL AND assignee_id = :me AND due_at < :today) AS overdue,
            (SELECT count(*)::int FROM leads WHERE status IN ('new', 'working', 'qualified')) AS leads,
            (SELECT count(*)::int FROM deals d JOIN stages s ON s.id = d.stage_id WHERE s.kind = 'open') AS deals`,
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
  return row ?? { arrivals: 0, round: 0, overdue: 0, leads: 0, deals: 0 };
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
  'GET /api/search': async ({ query, context }) => ({ items: await search(context, query.q, query.limit) }),
  'GET /api/counts': async ({ context }) => counts(context),
  'GET /api/history': async ({ query, context }) => {
    const rows = await context.sequelize.query<HistoryRow>(
      `SELECT e.id, e.at, u.id AS actor_id, u.name AS actor, e.label, EXISTS (SELECT 1 FROM events x WHERE x.undoes = e.id) AS undone
         FROM events e LEFT JOIN users u ON u.id = e.actor_id
        WHERE e.changes @> jsonb_build_array(jsonb_build_object('table', :table::text, 'id', :id::text)) ORDER BY e.seq DESC LIMIT 100`,
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
