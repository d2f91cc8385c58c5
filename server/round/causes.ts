import { QueryTypes } from 'sequelize';
import { ANSWERED } from '../cases/queries';
import type { Context } from '../commands/context';

/** Of each kind so many at most are ranked; those that waited longest come first. */
const MOST_OF_A_KIND = 200;

/** One thing that wants somebody today, as the database knows it. */
export interface FoundCause {
  kind: 'turn' | 'task' | 'new' | 'case' | 'stuck' | 'quiet';
  /** Of the task, lead, case or deal; of the person else. */
  id: string;
  since: Date;
  person_id: string | null;
  company_id: string | null;
  lead_id: string | null;
  deal_id: string | null;
  owner_id: string;
  /** Days in its stage, or without a word; how many are usual. */
  days: number | null;
  usual: number | null;
  stage: string | null;
  /** Of a meeting: a colleague holds it and asked the owner of this to come. */
  is_asked: boolean;
}

const NONE = 'NULL::uuid AS lead_id, NULL::uuid AS deal_id';
const PLAIN = 'NULL::int AS days, NULL::int AS usual, NULL::text AS stage';
/** Nothing of a person whom nobody works with any more. */
const ACTIVE = `NOT EXISTS (SELECT 1 FROM people i WHERE i.id = x.person_id AND i.inactive_since IS NOT NULL)`;

/** What each kind finds, as SQL over the owners `$owners` and the moment `$now`. */
const FOUND: Record<FoundCause['kind'] | 'asked', string> = {
  turn: `SELECT 'turn' AS kind, t.person_id AS id, coalesce(t.since, $now) AS since, t.person_id, p.company_id, ${NONE}, t.owner_id, ${PLAIN}
           FROM turns t JOIN people p ON p.id = t.person_id WHERE t.owner_id = ANY ($owners::uuid[]) AND (t.turn = 'ours' OR t.is_live)
          ORDER BY t.since, t.person_id`,
  task: `SELECT 'task' AS kind, x.id, x.due_at AS since, x.person_id, x.company_id, x.lead_id, x.deal_id, x.assignee_id AS owner_id, ${PLAIN}
           FROM tasks x WHERE x.done_at IS NULL AND x.assignee_id = ANY ($owners::uuid[]) AND x.due_at < $tomorrow AND (x.starts_at IS NULL OR x.starts_at <= $tomorrow) AND ${ACTIVE}
          ORDER BY x.due_at, x.id`,
  asked: `SELECT DISTINCT ON (x.due_at, x.id) 'task' AS kind, x.id, x.due_at AS since, x.person_id, x.company_id, x.lead_id, x.deal_id, a.user_id AS owner_id, ${PLAIN}
            FROM task_people a JOIN tasks x ON x.id = a.task_id
           WHERE a.user_id = ANY ($owners::uuid[]) AND a.answer <> 'declined' AND x.done_at IS NULL AND NOT x.all_day AND x.due_at < $tomorrow
             AND coalesce(x.ends_at, x.due_at + interval '1 hour') > $now AND NOT x.assignee_id = ANY ($owners::uuid[]) AND ${ACTIVE}
           ORDER BY x.due_at, x.id, a.user_id`,
  new: `SELECT 'new' AS kind, x.id, x.created_at AS since, x.person_id, x.company_id, x.id AS lead_id, NULL::uuid AS deal_id, x.owner_id, ${PLAIN}
          FROM leads x WHERE x.status = 'new' AND x.owner_id = ANY ($owners::uuid[]) AND ${ACTIVE}
           AND NOT EXISTS (SELECT 1 FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
                            WHERE k.person_id = x.person_id AND n.side = 'ours' AND k.at >= x.created_at)
         ORDER BY x.created_at, x.id`,
  case: `SELECT 'case' AS kind, s.id, CASE WHEN ${ANSWERED} IS NULL THEN s.answer_by ELSE s.solve_by END AS since, s.person_id, s.company_id, ${NONE}, s.owner_id, ${PLAIN}
           FROM cases s WHERE s.solved_at IS NULL AND s.owner_id = ANY ($owners::uuid[]) AND ${ACTIVE.replace('x.', 's.')}
          ORDER BY s.solve_by, s.id`,
  stuck: `SELECT 'stuck' AS kind, d.id, d.stage_since AS since, (SELECT r.person_id FROM deal_roles r WHERE r.deal_id = d.id ORDER BY r.role LIMIT 1) AS person_id,
                 d.company_id, NULL::uuid AS lead_id, d.id AS deal_id, d.owner_id,
                 extract(epoch FROM $now::timestamptz - d.stage_since)::int / 86400 AS days, s.typical_days AS usual, s.name AS stage
            FROM deals d JOIN stages s ON s.id = d.stage_id
           WHERE d.closed_at IS NULL AND s.kind = 'open' AND d.owner_id = ANY ($owners::uuid[]) AND d.stage_since < $now::timestamptz - make_interval(days => 2 * s.typical_days)
           ORDER BY d.stage_since, d.id`,
  quiet: `SELECT 'quiet' AS kind, t.person_id AS id, t.quiet_at AS since, t.person_id, p.company_id, ${NONE}, t.owner_id,
                 extract(epoch FROM $now::timestamptz - coalesce(t.spoken_at, p.created_at))::int / 86400 AS days,
                 greatest(1, extract(epoch FROM t.quiet_at - coalesce(t.spoken_at, p.created_at))::int / 86400) AS usual, NULL::text AS stage
            FROM turns t JOIN people p ON p.id = t.person_id
           WHERE t.owner_id = ANY ($owners::uuid[]) AND t.quiet_at IS NOT NULL AND t.quiet_at <= $now
           ORDER BY t.quiet_at, t.person_id`,
};

/** Everything that wants one of some owners today. */
export async function findCauses(
  context: Context,
  owners: readonly string[],
  tomorrow: Date,
): Promise<FoundCause[]> {
  const parts = Object.entries(FOUND).map(
    ([name, sql]) =>
      `SELECT f.*, ${String(name === 'asked')} AS is_asked FROM (${sql} LIMIT ${MOST_OF_A_KIND}) f`,
  );
  return context.sequelize.query<FoundCause>(parts.join(' UNION ALL '), {
    bind: { owners: [...owners], now: context.now(), tomorrow },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
}

interface Work {
  person_id: string;
  deal_id: string;
  title: string;
  amount_minor: string | null;
  currency: string;
  probability: number;
}

/** The dearest open deal of each of some people. */
export const dealsOfPeople = (context: Context, ids: readonly string[]): Promise<Work[]> =>
  context.sequelize.query<Work>(
    `SELECT DISTINCT ON (r.person_id) r.person_id, d.id AS deal_id, d.title, d.amount_minor, d.currency, d.probability
       FROM deal_roles r JOIN deals d ON d.id = r.deal_id WHERE r.person_id = ANY ($ids::uuid[]) AND d.closed_at IS NULL
      ORDER BY r.person_id, d.amount_minor DESC NULLS LAST, d.id`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );

interface Spoke {
  person_id: string;
  at: Date;
  side: 'ours' | 'theirs' | 'within';
}
const SPOKEN_BACK = 20;

/** The newest entries of each of some people, oldest first. */
export const spokenWith = (context: Context, ids: readonly string[]): Promise<Spoke[]> =>
  context.sequelize.query<Spoke>(
    `SELECT p.id AS person_id, said.at, said.side FROM unnest($ids::uuid[]) p (id) CROSS JOIN LATERAL (
       SELECT k.at, n.side FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
        WHERE k.person_id = p.id AND n.side <> 'within' AND NOT k.is_copied ORDER BY k.at DESC, k.entry_id DESC LIMIT ${SPOKEN_BACK}) said
      ORDER BY p.id, said.at`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );

interface Names {
  id: string;
  name: string;
  is_important: boolean;
  phone: string | null;
  email: string | null;
}

/** Names and ways to reach some people and companies, and whether they are important. */
export const namesOf = (context: Context, ids: readonly string[]): Promise<Names[]> =>
  context.sequelize.query<Names>(
    `SELECT p.id, p.full_name AS name, p.is_important,
            (SELECT c.normalized FROM contact_points c WHERE c.person_id = p.id AND c.kind = 'phone' ORDER BY c.created_at LIMIT 1) AS phone,
            (SELECT c.normalized FROM contact_points c WHERE c.person_id = p.id AND c.kind = 'email' ORDER BY c.created_at LIMIT 1) AS email
       FROM people p WHERE p.id = ANY ($ids::uuid[])
     UNION ALL SELECT c.id, c.name, c.is_important, c.phone, NULL FROM companies c WHERE c.id = ANY ($ids::uuid[])
     UNION ALL SELECT l.id, l.title, false, NULL, NULL FROM leads l WHERE l.id = ANY ($ids::uuid[])
     UNION ALL SELECT u.id, u.name, false, NULL, NULL FROM users u WHERE u.id = ANY ($ids::uuid[])`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );

/** Which of some deals and people have a task that is open. */
export async function withNextMove(context: Context, ids: readonly string[]): Promise<Set<string>> {
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT deal_id AS id FROM tasks WHERE done_at IS NULL AND deal_id = ANY ($ids::uuid[])
     UNION SELECT person_id FROM tasks WHERE done_at IS NULL AND person_id = ANY ($ids::uuid[])
     UNION SELECT a.person_id FROM task_people a JOIN tasks t ON t.id = a.task_id WHERE t.done_at IS NULL AND a.person_id = ANY ($ids::uuid[])`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Set(rows.map(({ id }) => id));
}
