import type pg from 'pg';

/** How much has been said, and what else a book of a million people holds. */
export interface History {
  entries: number;
  leads: number;
  tasks: number;
  waiting: number;
  /** Cases, and as many projects. */
  cases: number;
  changes: number;
}

/** A number below `below` that jumps about; the same each time. */
const some = (salt: number, below: string): string =>
  `(('x' || substr(md5(n::text || '${salt}'), 1, 8))::bit(32)::bigint % ${below})`;
/** An id from a number, in the form of version 4; the same each time. */
const id = (what: string, n: string): string =>
  `overlay(overlay(md5('${what}' || ${n}) PLACING '4' FROM 13) PLACING 'a' FROM 17)::uuid`;
const PEOPLE = '(SELECT count(*) FROM people)';
const DEALS = '(SELECT count(*) FROM deals)';
const USERS = '(SELECT count(*) FROM users)';

const NUMBERED = `
CREATE TEMP TABLE numbered_people AS SELECT row_number() OVER (ORDER BY id) - 1 AS n, id, company_id FROM people;
CREATE TEMP TABLE numbered_deals AS SELECT row_number() OVER (ORDER BY id) - 1 AS n, id FROM deals;
CREATE TEMP TABLE numbered_users AS SELECT row_number() OVER (ORDER BY email) - 1 AS n, id FROM users;
ANALYZE numbered_people; ANALYZE numbered_deals; ANALYZE numbered_users`;

const leads = (count: number): string => `
INSERT INTO leads (id, title, person_id, company_id, status, status_since, source, owner_id, drop_reason, created_at, updated_at)
SELECT ${id('lead', 's.n')}, 'Bikes ' || s.n, p.id, p.company_id, (ARRAY['new', 'working', 'qualified', 'dropped'])[1 + s.n % 4], s.at,
       (ARRAY['call', 'form', 'fair'])[1 + s.n % 3], u.id, CASE WHEN s.n % 4 = 3 THEN 'no answer' END, s.at, s.at
  FROM (SELECT n, ${some(1, PEOPLE)} AS person, ${some(2, USERS)} AS owner, timestamptz '2026-11-20' - n * interval '20 seconds' AS at
          FROM generate_series(1, ${count}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner;
INSERT INTO lead_scores (lead_id, fit, warmth, completeness, chance, scored_at)
SELECT id, 1 + abs(hashtext(id::text)) % 100, 1 + abs(hashtext(id::text || 'w')) % 100, 50, (abs(hashtext(id::text || 'c')) % 1000) / 1000.0, now() FROM leads`;

/** One in twenty is still open; every fourth is a meeting, to which a person and a colleague come. */
const tasks = (count: number): string => `
INSERT INTO tasks (id, title, kind, due_at, all_day, ends_at, assignee_id, person_id, deal_id, done_at, created_by, created_at)
SELECT ${id('task', 's.n')}, 'Call about ' || s.n, (ARRAY['call', 'mail', 'meeting', 'task'])[1 + s.n % 4], s.due, false,
       CASE WHEN s.n % 4 = 2 THEN s.due + interval '1 hour' END, u.id, CASE WHEN d.id IS NULL THEN p.id END, d.id,
       CASE WHEN NOT s.is_open THEN s.due END, u.id, s.due - interval '20 days'
  FROM (SELECT n, n / 4 % 20 = 0 AS is_open, ${some(3, PEOPLE)} AS person, ${some(4, USERS)} AS owner, CASE WHEN n % 2 = 0 THEN ${some(5, DEALS)} END AS deal,
               date_trunc('hour', now()) + ${some(13, '9')} * interval '1 hour'
               + CASE WHEN n / 4 % 20 = 0 THEN ${some(10, '60')} - 10 ELSE -1 - ${some(11, '400')} END * interval '1 day' AS due
          FROM generate_series(1, ${count}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner LEFT JOIN numbered_deals d ON d.n = s.deal;
INSERT INTO task_people (id, task_id, person_id, user_id, name)
SELECT ${id('guest', '(s.n || s.who)')}, ${id('task', 's.n')}, CASE s.who WHEN 'p' THEN p.id END, CASE s.who WHEN 'u' THEN u.id END, 'Guest ' || s.n
  FROM (SELECT n, who, ${some(3, PEOPLE)} AS person, ${some(12, USERS)} AS colleague FROM generate_series(2, ${count}, 4) n CROSS JOIN (VALUES ('p'), ('u')) w (who)) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.colleague`;

/** Who decides on each deal; and what comes after some of them: one case in twenty and one project in five are open. */
const afterDeals = (count: number): string => `
INSERT INTO deal_roles (id, deal_id, person_id, role)
SELECT ${id('role', 'd.n')}, d.id, p.id, 'decides' FROM (SELECT n, id, ${some(14, PEOPLE)} AS person FROM numbered_deals) d JOIN numbered_people p ON p.n = d.person;
INSERT INTO cases (id, title, person_id, company_id, came_by, urgency, owner_id, opened_at, answer_by, solve_by, solved_at)
SELECT ${id('case', 's.n')}, 'Trouble with trailer ' || s.n, p.id, p.company_id, 'mail', (ARRAY['urgent', 'normal', 'low'])[1 + s.n % 3], u.id, s.at,
       s.at + interval '8 hours', s.at + interval '40 hours', CASE WHEN s.n % 20 > 0 THEN s.at + interval '30 hours' END
  FROM (SELECT n, ${some(15, PEOPLE)} AS person, ${some(16, USERS)} AS owner, now() - n * interval '7 minutes' AS at FROM generate_series(1, ${count}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner;
INSERT INTO projects (id, title, stage_id, stage_since, company_id, owner_id, due_on, created_at, closed_at)
SELECT ${id('project', 's.n')}, 'Delivery ' || s.n, (SELECT g.id FROM project_stages g WHERE g.kind = CASE WHEN s.n % 5 = 0 THEN 'open' ELSE 'done' END ORDER BY g.position LIMIT 1),
       s.at, p.company_id, u.id, s.at::date + 30, s.at, CASE WHEN s.n % 5 > 0 THEN s.at + interval '20 days' END
  FROM (SELECT n, ${some(17, PEOPLE)} AS person, ${some(18, USERS)} AS owner, now() - n * interval '7 minutes' AS at FROM generate_series(1, ${count}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner`;

/** What was changed by whom, a field at a time. */
const changes = (count: number): string => `
ALTER TABLE events DISABLE TRIGGER ALL;
INSERT INTO events (id, at, actor_id, command, label, changes, roles)
SELECT ${id('event', 's.n')}, now() - (${count} - s.n) * interval '30 seconds', u.id, 'updatePerson', 'Changed the job title',
       jsonb_build_array(jsonb_build_object('table', 'people', 'id', p.id, 'before', jsonb_build_object('jobTitle', 'Baker'), 'after', jsonb_build_object('jobTitle', 'Head baker'))), ARRAY['work']
  FROM (SELECT n, ${some(19, PEOPLE)} AS person, ${some(20, USERS)} AS owner FROM generate_series(1, ${count}) n ORDER BY n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner;
ALTER TABLE events ENABLE TRIGGER ALL`;

/** One in ten is said about a deal, the rest with a person; some are spoken with far more than others, one in 5,000 entries of ten million. */
const entries = (from: number, until: number, within: number): string => `
INSERT INTO ledger_entries (id, at, side, kind, headline, body, actor_id, created_at)
SELECT ${id('entry', 's.n')}, s.at, (ARRAY['theirs', 'ours', 'within'])[1 + s.n % 3], (ARRAY['mail', 'call', 'meeting', 'note'])[1 + s.n % 4],
       'About the bikes, ' || s.n, 'We spoke of long bikes, of what a trailer carries, and of the price of eight.', u.id, s.at
  FROM (SELECT n, ${some(6, USERS)} AS owner, timestamptz '2026-11-20' - n * interval '9 seconds' AS at FROM generate_series(${from}, ${until}) n) s
  JOIN numbered_users u ON u.n = s.owner;
INSERT INTO ledger_links (id, entry_id, person_id, deal_id, at_company, at)
SELECT ${id('link', 's.n')}, ${id('entry', 's.n')}, CASE WHEN d.id IS NULL THEN p.id END, d.id, CASE WHEN d.id IS NULL THEN w.company_id END, s.at
  FROM (SELECT n, CASE WHEN n % 2000 = 1 THEN 0 WHEN n % 4 = 0 THEN ${some(7, `least(1000, ${within})`)} ELSE ${some(8, String(within))} END AS person, CASE WHEN n % 10 = 0 THEN ${some(9, DEALS)} END AS deal, timestamptz '2026-11-20' - n * interval '9 seconds' AS at
          FROM generate_series(${from}, ${until}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN people w ON w.id = p.id LEFT JOIN numbered_deals d ON d.n = s.deal`;

/** Whose turn it is with each person, as the program keeps it: by the side that spoke last. One in ten has gone quiet. */
const turns = `
INSERT INTO turns (person_id, turn, since, because, spoken_at, touched_at, is_live, owner_id, quiet_at)
SELECT p.id, CASE n.side WHEN 'ours' THEN 'theirs' ELSE 'ours' END, n.at, CASE n.side WHEN 'ours' THEN 'we wrote' ELSE 'they wrote' END, n.at, n.at, false,
       u.id, CASE WHEN p.n % 10 = 0 THEN n.at + interval '30 days' END
  FROM (SELECT n, id, ${some(21, USERS)} AS owner FROM numbered_people) p JOIN numbered_users u ON u.n = p.owner CROSS JOIN LATERAL (
    SELECT e.side, e.at FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
     WHERE k.person_id = p.id AND e.side <> 'within' ORDER BY k.at DESC LIMIT 1) n`;

const states = `
INSERT INTO deal_states (deal_id, at, stage_id, amount_minor, currency, probability, expected_close, owner_id)
SELECT id, created_at, stage_id, amount_minor, currency, probability, expected_close, owner_id FROM deals`;

const waiting = (count: number): string => `
INSERT INTO captures (id, kind, media_type, sha256, raw, came_by, received_at, message)
SELECT ${id('capture', 'n')}, 'text', 'text/plain', md5('a' || n) || md5('b' || n), convert_to('Somebody ' || n, 'UTF8'), 'paste',
       timestamptz '2026-11-20' - n * interval '1 minute', jsonb_build_object('from', jsonb_build_object('name', 'Somebody ' || n, 'address', 'somebody' || n || '@far.example'), 'to', '[]'::jsonb,
         'subject', '', 'sentAt', NULL, 'messageId', NULL, 'references', '[]'::jsonb, 'body', 'plain', 'text', 'Somebody ' || n, 'said', '', 'attachments', '[]'::jsonb, 'side', 'theirs') FROM generate_series(1, ${count}) n;
INSERT INTO lists (id, name, created_at) SELECT ${id('list', '1')}, 'Fair of spring', '2026-03-01';
INSERT INTO list_members (id, list_id, person_id, created_at)
SELECT ${id('member', 'n')}, ${id('list', '1')}, id, '2026-03-01' FROM numbered_people WHERE n % 50 = 0`;

const AT_ONCE = 1_000_000;

/** Fills in what happened with the people of a book that is there: leads, next moves, what was said, and what waits. */
export async function fillHistory(
  client: pg.Client,
  size: History,
  lap: (text: string) => void,
): Promise<void> {
  await client.query(NUMBERED);
  const { rows } = await client.query<{ n: number }>('SELECT count(*)::int AS n FROM people');
  await client.query(leads(size.leads));
  await client.query(tasks(size.tasks));
  await client.query(waiting(size.waiting));
  await client.query(states);
  await client.query(afterDeals(size.cases));
  lap(`${size.leads} leads, ${size.tasks} tasks, ${size.cases} cases and projects`);
  await client.query(changes(size.changes));
  lap(`${size.changes} changes`);
  const tables = ['ledger_entries', 'ledger_links'];
  const { rows: indexes } = await client.query<{ name: string; made: string }>(
    `SELECT i.indexrelid::regclass::text AS name, pg_get_indexdef(i.indexrelid) AS made FROM pg_index i
      WHERE i.indrelid = ANY ($1::regclass[]) AND NOT EXISTS (SELECT 1 FROM pg_constraint c WHERE c.conindid = i.indexrelid)`,
    [tables],
  );
  for (const { name } of indexes) await client.query(`DROP INDEX ${name}`);
  for (const table of tables) await client.query(`ALTER TABLE ${table} DISABLE TRIGGER ALL`);
  for (let from = 1; from <= size.entries; from += AT_ONCE) {
    const until = Math.min(size.entries, from + AT_ONCE - 1);
    await client.query(entries(from, until, rows[0]?.n ?? 1));
    lap(`${until} entries`);
  }
  for (const table of tables) await client.query(`ALTER TABLE ${table} ENABLE TRIGGER ALL`);
  for (const { made } of indexes) await client.query(made);
  await client.query(turns);
}
