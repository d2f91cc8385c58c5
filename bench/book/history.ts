import type pg from 'pg';

/** How much has been said, and what else a book of a million people holds. */
export interface History {
  entries: number;
  leads: number;
  tasks: number;
  waiting: number;
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

const tasks = (count: number): string => `
INSERT INTO tasks (id, title, kind, due_at, all_day, assignee_id, person_id, deal_id, done_at, created_by, created_at)
SELECT ${id('task', 's.n')}, 'Call about ' || s.n, (ARRAY['call', 'mail', 'meeting', 'task'])[1 + s.n % 4],
       timestamptz '2026-11-20' + (s.n % 40) * interval '1 day', false, u.id, CASE WHEN d.id IS NULL THEN p.id END, d.id,
       CASE WHEN s.n % 3 = 0 THEN timestamptz '2026-11-01' END, u.id, timestamptz '2026-10-01'
  FROM (SELECT n, ${some(3, PEOPLE)} AS person, ${some(4, USERS)} AS owner, CASE WHEN n % 2 = 0 THEN ${some(5, DEALS)} END AS deal FROM generate_series(1, ${count}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN numbered_users u ON u.n = s.owner LEFT JOIN numbered_deals d ON d.n = s.deal`;

/** One in ten is said about a deal, the rest with a person; some people are spoken with far more than others. */
const entries = (from: number, until: number, within: number): string => `
INSERT INTO ledger_entries (id, at, side, kind, headline, body, actor_id, created_at)
SELECT ${id('entry', 's.n')}, s.at, (ARRAY['theirs', 'ours', 'within'])[1 + s.n % 3], (ARRAY['mail', 'call', 'meeting', 'note'])[1 + s.n % 4],
       'About the bikes, ' || s.n, 'We spoke of long bikes, of what a trailer carries, and of the price of eight.', u.id, s.at
  FROM (SELECT n, ${some(6, USERS)} AS owner, timestamptz '2026-11-20' - n * interval '9 seconds' AS at FROM generate_series(${from}, ${until}) n) s
  JOIN numbered_users u ON u.n = s.owner;
INSERT INTO ledger_links (id, entry_id, person_id, deal_id, at_company, at)
SELECT ${id('link', 's.n')}, ${id('entry', 's.n')}, CASE WHEN d.id IS NULL THEN p.id END, d.id, CASE WHEN d.id IS NULL THEN w.company_id END, s.at
  FROM (SELECT n, CASE WHEN n % 4 = 0 THEN ${some(7, `least(1000, ${within})`)} ELSE ${some(8, String(within))} END AS person, CASE WHEN n % 10 = 0 THEN ${some(9, DEALS)} END AS deal, timestamptz '2026-11-20' - n * interval '9 seconds' AS at
          FROM generate_series(${from}, ${until}) n) s
  JOIN numbered_people p ON p.n = s.person JOIN people w ON w.id = p.id LEFT JOIN numbered_deals d ON d.n = s.deal`;

/** Whose turn it is with each person, as the program keeps it: by the side that spoke last. */
const turns = `
INSERT INTO turns (person_id, turn, since, because, spoken_at, touched_at, is_live)
SELECT p.id, CASE n.side WHEN 'ours' THEN 'theirs' ELSE 'ours' END, n.at, CASE n.side WHEN 'ours' THEN 'we wrote' ELSE 'they wrote' END, n.at, n.at, false
  FROM people p CROSS JOIN LATERAL (
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
  lap(`${size.leads} leads, ${size.tasks} next moves`);
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
