import { ANSWERED } from '../cases/queries';
import type { Context } from '../commands/context';
import { askPrepared, askWithFixedPlan } from '../db/prepared';

/** Of each kind so many at most are ranked; those that waited longest come first. */
const MOST_OF_A_KIND = 200;
/** Of a team, so many of each of its people. */
const MOST_OF_EACH = 40;

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

/**
 * The first of each owner, and of those the first: an index in the order of each owner gives them, where one of several owners
 * at once would have to be read whole. The inner query gives `since` and `id`, and orders by the columns of its index.
 */
const first = (of: string): string =>
  `(SELECT y.* FROM unnest($owners::uuid[]) o (id) CROSS JOIN LATERAL (${of} LIMIT $each) y ORDER BY y.since, y.id LIMIT ${MOST_OF_A_KIND})`;

const ASKED = `SELECT x.id, x.due_at AS since, x.person_id, x.company_id, x.lead_id, x.deal_id, a.user_id AS owner_id
  FROM tasks x JOIN task_people a ON a.task_id = x.id
 WHERE a.user_id = ANY ($owners::uuid[]) AND a.answer <> 'declined' AND x.done_at IS NULL AND x.due_at < $tomorrow
   AND NOT x.assignee_id = ANY ($owners::uuid[]) AND ${ACTIVE}`;

/** What each kind finds, as SQL over the owners `$owners` and the moment `$now`. */
const FOUND: Record<FoundCause['kind'] | 'asked', string> = {
  turn: `SELECT 'turn' AS kind, t.id, coalesce(t.since, $now) AS since, t.id AS person_id, p.company_id, ${NONE}, t.owner_id, ${PLAIN}
           FROM ${first(`SELECT x.person_id AS id, x.since, x.owner_id FROM turns x WHERE x.owner_id = o.id AND (x.turn = 'ours' OR x.is_live) ORDER BY x.since, x.person_id`)} t
           JOIN people p ON p.id = t.id`,
  task: `SELECT 'task' AS kind, x.id, x.since, x.person_id, x.company_id, x.lead_id, x.deal_id, x.owner_id, ${PLAIN}
           FROM ${first(`SELECT x.id, x.due_at AS since, x.person_id, x.company_id, x.lead_id, x.deal_id, x.assignee_id AS owner_id FROM tasks x
             WHERE x.done_at IS NULL AND x.assignee_id = o.id AND x.due_at < $tomorrow AND (x.starts_at IS NULL OR x.starts_at <= $tomorrow) AND ${ACTIVE} ORDER BY x.due_at, x.id`)} x`,
  // What lasts for a day or less began since yesterday; the few others are found by their end.
  asked: `SELECT 'task' AS kind, x.id, x.since, x.person_id, x.company_id, x.lead_id, x.deal_id, x.owner_id, ${PLAIN}
            FROM (SELECT DISTINCT ON (y.since, y.id) y.* FROM (
              ${ASKED} AND x.due_at > $now::timestamptz - interval '1 day' AND coalesce(x.ends_at, x.due_at + CASE WHEN x.all_day THEN interval '1 day' ELSE interval '1 hour' END) > $now
              UNION ALL ${ASKED} AND x.due_at <= $now::timestamptz - interval '1 day' AND x.ends_at - x.due_at > interval '1 day' AND x.ends_at > $now) y
            ORDER BY y.since, y.id, y.owner_id LIMIT ${MOST_OF_A_KIND}) x`,
  new: `SELECT 'new' AS kind, x.id, x.since, x.person_id, x.company_id, x.id AS lead_id, NULL::uuid AS deal_id, x.owner_id, ${PLAIN}
          FROM ${first(`SELECT x.id, x.created_at AS since, x.person_id, x.company_id, x.owner_id FROM leads x WHERE x.status = 'new' AND x.owner_id = o.id AND ${ACTIVE}
             AND NOT EXISTS (SELECT 1 FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
                              WHERE k.person_id = x.person_id AND n.side = 'ours' AND k.at >= x.created_at) ORDER BY x.created_at, x.id`)} x`,
  case: `SELECT 'case' AS kind, s.id, CASE WHEN ${ANSWERED} IS NULL THEN s.answer_by ELSE s.solve_by END AS since, s.person_id, s.company_id, ${NONE}, s.owner_id, ${PLAIN}
           FROM ${first(`SELECT x.id, x.solve_by AS since, x.solve_by, x.answer_by, x.opened_at, x.person_id, x.company_id, x.owner_id FROM cases x
             WHERE x.solved_at IS NULL AND x.owner_id = o.id AND ${ACTIVE} ORDER BY x.solve_by, x.id`)} s`,
  stuck: `SELECT 'stuck' AS kind, d.id, d.since, (SELECT r.person_id FROM deal_roles r WHERE r.deal_id = d.id ORDER BY r.role LIMIT 1) AS person_id,
                 d.company_id, NULL::uuid AS lead_id, d.id AS deal_id, d.owner_id,
                 extract(epoch FROM $now::timestamptz - d.since)::int / 86400 AS days, d.typical_days AS usual, d.stage
            FROM ${first(`SELECT x.id, x.stage_since AS since, x.company_id, x.owner_id, g.typical_days, g.name AS stage FROM deals x JOIN stages g ON g.id = x.stage_id
             WHERE x.closed_at IS NULL AND g.kind = 'open' AND x.owner_id = o.id AND x.stage_since < $now::timestamptz - make_interval(days => 2 * g.typical_days) ORDER BY x.stage_since, x.id`)} d`,
  quiet: `SELECT 'quiet' AS kind, t.id, t.since, t.id AS person_id, p.company_id, ${NONE}, t.owner_id,
                 extract(epoch FROM $now::timestamptz - coalesce(t.spoken_at, p.created_at))::int / 86400 AS days,
                 greatest(1, extract(epoch FROM t.since - coalesce(t.spoken_at, p.created_at))::int / 86400) AS usual, NULL::text AS stage
            FROM ${first(`SELECT x.person_id AS id, x.quiet_at AS since, x.spoken_at, x.owner_id FROM turns x
             WHERE x.owner_id = o.id AND x.quiet_at IS NOT NULL AND x.quiet_at <= $now ORDER BY x.quiet_at, x.person_id`)} t
            JOIN people p ON p.id = t.id`,
};

const ALL_FOUND = Object.entries(FOUND)
  .map(([name, sql]) => `SELECT f.*, ${String(name === 'asked')} AS is_asked FROM (${sql}) f`)
  .join(' UNION ALL ');

/** Everything that wants one of some owners today. */
export const findCauses = (
  context: Context,
  owners: readonly string[],
  tomorrow: Date,
): Promise<FoundCause[]> =>
  askWithFixedPlan<FoundCause>(context, ALL_FOUND, {
    owners: [...owners],
    each: owners.length > 1 ? MOST_OF_EACH : MOST_OF_A_KIND,
    ...{ now: context.now(), tomorrow },
  });

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
  askPrepared<Work>(
    context,
    `SELECT DISTINCT ON (r.person_id) r.person_id, d.id AS deal_id, d.title, d.amount_minor, d.currency, d.probability
       FROM deal_roles r JOIN deals d ON d.id = r.deal_id WHERE r.person_id = ANY ($ids::uuid[]) AND d.closed_at IS NULL
      ORDER BY r.person_id, d.amount_minor DESC NULLS LAST, d.id`,
    { ids: [...ids] },
  );

/** The deals that are named themselves. */
export const dealsByIds = (context: Context, ids: readonly string[]): Promise<Omit<Work, 'person_id'>[]> =>
  askPrepared<Omit<Work, 'person_id'>>(
    context,
    'SELECT id AS deal_id, title, amount_minor, currency, probability FROM deals WHERE id = ANY ($ids::uuid[])',
    { ids: [...ids] },
  );

interface Spoke {
  person_id: string;
  at: Date;
  side: 'ours' | 'theirs' | 'within';
}
const SPOKEN_BACK = 20;

/** The newest entries of each of some people, oldest first. */
export const spokenWith = (context: Context, ids: readonly string[]): Promise<Spoke[]> =>
  askPrepared<Spoke>(
    context,
    `SELECT p.id AS person_id, said.at, said.side FROM unnest($ids::uuid[]) p (id) CROSS JOIN LATERAL (
       SELECT k.at, n.side FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
        WHERE k.person_id = p.id AND n.side <> 'within' AND NOT k.is_copied ORDER BY k.at DESC, k.entry_id DESC LIMIT ${SPOKEN_BACK}) said
      ORDER BY p.id, said.at`,
    { ids: [...ids] },
  );

interface Names {
  id: string;
  name: string;
  phone: string | null;
  email: string | null;
}

/** Which of some people and companies are important. */
export async function importantOf(context: Context, ids: readonly string[]): Promise<Set<string>> {
  const rows = await askPrepared<{ id: string }>(
    context,
    `SELECT id FROM people WHERE id = ANY ($ids::uuid[]) AND is_important
     UNION ALL SELECT id FROM companies WHERE id = ANY ($ids::uuid[]) AND is_important`,
    { ids: [...ids] },
  );
  return new Set(rows.map(({ id }) => id));
}

/** Names of some records and colleagues, and ways to reach people. */
export const namesOf = (context: Context, ids: readonly string[]): Promise<Names[]> =>
  askPrepared<Names>(
    context,
    `SELECT p.id, p.full_name AS name,
            (SELECT c.normalized FROM contact_points c WHERE c.person_id = p.id AND c.kind = 'phone' ORDER BY c.created_at LIMIT 1) AS phone,
            (SELECT c.normalized FROM contact_points c WHERE c.person_id = p.id AND c.kind = 'email' ORDER BY c.created_at LIMIT 1) AS email
       FROM people p WHERE p.id = ANY ($ids::uuid[])
     UNION ALL SELECT c.id, c.name, c.phone, NULL FROM companies c WHERE c.id = ANY ($ids::uuid[])
     UNION ALL SELECT l.id, l.title, NULL, NULL FROM leads l WHERE l.id = ANY ($ids::uuid[])
     UNION ALL SELECT u.id, u.name, NULL, NULL FROM users u WHERE u.id = ANY ($ids::uuid[])`,
    { ids: [...ids] },
  );

/** Which of some deals and people have a task that is open. */
export async function withNextMove(context: Context, ids: readonly string[]): Promise<Set<string>> {
  const rows = await askPrepared<{ id: string }>(
    context,
    `SELECT deal_id AS id FROM tasks WHERE done_at IS NULL AND deal_id = ANY ($ids::uuid[])
     UNION SELECT person_id FROM tasks WHERE done_at IS NULL AND person_id = ANY ($ids::uuid[])
     UNION SELECT a.person_id FROM task_people a JOIN tasks t ON t.id = a.task_id WHERE t.done_at IS NULL AND a.person_id = ANY ($ids::uuid[])`,
    { ids: [...ids] },
  );
  return new Set(rows.map(({ id }) => id));
}
