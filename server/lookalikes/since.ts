import type { Side } from '@emporikon/core/matching/merging';
import type { Context } from '../commands/context';
import type { RecordKind } from './links';
import { ask, type Moved } from './move';

/** Something that came to a survivor after a merge. */
export interface SinceRow {
  table: string;
  column: string;
  key: string;
  what: string;
  at: Date | null;
  /** Addresses and numbers it came from. */
  from: string[];
  belongs: Side;
  why: string;
}

interface Source {
  table: string;
  /** Rows of the holder that came after `$at`, as key, what, at, from. */
  sql: string;
}

/** Whose address or number an original came from, by the claims that were read from it. */
const FROM_CAPTURE = (capture: string): string =>
  `ARRAY(SELECT DISTINCT coalesce(c.normalized, c.value) FROM claims c WHERE c.capture_id = ${capture} AND c.field IN ('email', 'phone', 'profile') AND c.fate <> 'rejected')`;

const sources = (column: 'person_id' | 'company_id'): Source[] => [
  {
    table: 'ledger_links',
    sql: `SELECT t.id::text AS key, e.kind || ': ' || e.headline AS what, e.created_at AS at, ${FROM_CAPTURE('e.capture_id')} AS "from"
            FROM ledger_links t JOIN ledger_entries e ON e.id = t.entry_id WHERE t.${column} = $holder::uuid AND e.created_at > $at::timestamptz AND e.kind <> 'change'`,
  },
  {
    table: 'leads',
    sql: `SELECT t.id::text AS key, 'lead: ' || t.title AS what, t.created_at AS at,
                 ARRAY(SELECT DISTINCT unnest(${FROM_CAPTURE('e.capture_id')}) FROM ledger_links l JOIN ledger_entries e ON e.id = l.entry_id WHERE l.lead_id = t.id) AS "from"
            FROM leads t WHERE t.${column} = $holder::uuid AND t.created_at > $at::timestamptz`,
  },
  {
    table: 'tasks',
    sql: `SELECT t.id::text AS key, t.kind || ': ' || t.title AS what, t.created_at AS at, '{}'::text[] AS "from"
            FROM tasks t WHERE t.${column} = $holder::uuid AND t.created_at > $at::timestamptz`,
  },
];
const PERSON: Source[] = [
  ...sources('person_id'),
  {
    table: 'contact_points',
    sql: `SELECT t.id::text AS key, t.kind || ': ' || t.value AS what, t.created_at AS at, '{}'::text[] AS "from"
            FROM contact_points t WHERE t.person_id = $holder::uuid AND t.created_at > $at::timestamptz`,
  },
  {
    table: 'deal_roles',
    sql: `SELECT t.id::text AS key, 'deal: ' || d.title AS what, d.created_at AS at, '{}'::text[] AS "from"
            FROM deal_roles t JOIN deals d ON d.id = t.deal_id WHERE t.person_id = $holder::uuid AND d.created_at > $at::timestamptz`,
  },
];
const COMPANY: Source[] = [
  ...sources('company_id'),
  {
    table: 'deals',
    sql: `SELECT t.id::text AS key, 'deal: ' || t.title AS what, t.created_at AS at, '{}'::text[] AS "from"
            FROM deals t WHERE t.company_id = $holder::uuid AND t.created_at > $at::timestamptz`,
  },
  {
    table: 'people',
    sql: `SELECT t.id::text AS key, 'person: ' || t.full_name AS what, t.created_at AS at,
                 ARRAY(SELECT split_part(normalized, '@', 2) FROM contact_points k WHERE k.person_id = t.id AND k.kind = 'email') AS "from"
            FROM people t WHERE t.company_id = $holder::uuid AND t.created_at > $at::timestamptz`,
  },
];

/** Of the tasks and roles those of work that goes back with the record that was merged. */
async function followers(
  context: Context,
  table: string,
  keys: readonly string[],
  back: ReadonlySet<string>,
): Promise<Set<string>> {
  if (!['tasks', 'deal_roles'].includes(table) || !keys.length) return new Set();
  const lead = table === 'tasks' ? 't.lead_id' : 'NULL::uuid';
  const rows = await ask<{ key: string; lead: string | null; deal: string | null }>(
    context,
    `SELECT t.id::text AS key, ${lead}::text AS lead, t.deal_id::text AS deal FROM ${table} t WHERE t.id = ANY ($keys::uuid[])`,
    { keys: [...keys] },
  );
  return new Set(
    rows.filter((row) => [row.lead, row.deal].some((one) => one && back.has(one))).map((row) => row.key),
  );
}

/** What came to the survivor after a merge, oldest first; what hangs on work that goes back goes with it. */
export async function sinceMerge(
  context: Context,
  kind: RecordKind,
  holder: string,
  at: Date,
  moved: Moved,
): Promise<SinceRow[]> {
  const column = kind === 'person' ? 'person_id' : 'company_id';
  const back = new Set([...(moved.rows[`leads.${column}`] ?? []), ...(moved.rows['deals.company_id'] ?? [])]);
  const rows: SinceRow[] = [];
  for (const source of kind === 'person' ? PERSON : COMPANY) {
    const came = await ask<Pick<SinceRow, 'key' | 'what' | 'at' | 'from'>>(context, source.sql, {
      holder,
      at,
    });
    const there = new Set(moved.rows[`${source.table}.${column}`] ?? []);
    const fresh = came.filter((row) => !there.has(row.key));
    const follow = await followers(
      context,
      source.table,
      fresh.map((row) => row.key),
      back,
    );
    rows.push(
      ...fresh.map((row): SinceRow => ({
        ...row,
        table: source.table,
        column,
        belongs: follow.has(row.key) ? 'merged' : 'ask',
        why: follow.has(row.key) ? 'by the lead or deal it is of' : 'came after the merge',
      })),
    );
  }
  return rows.sort((a, b) => (a.at?.getTime() ?? 0) - (b.at?.getTime() ?? 0));
}
