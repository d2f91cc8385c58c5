import type { Comparison } from '@emporikon/contract/lookAlikes';
import type { Context } from '../commands/context';
import type { RecordKind } from './links';
import { ask } from './move';

export type Work = Comparison['moves'];

const PERSON = `SELECT p.id,
    (SELECT count(*)::int FROM ledger_links l WHERE l.person_id = p.id) AS ledger,
    (SELECT count(*)::int FROM leads l WHERE l.person_id = p.id) AS leads,
    (SELECT count(DISTINCT deal_id)::int FROM deal_roles r WHERE r.person_id = p.id) AS deals,
    (SELECT count(*)::int FROM tasks t WHERE t.person_id = p.id) AS tasks,
    (SELECT count(*)::int FROM contact_points k WHERE k.person_id = p.id) AS contacts,
    0 AS people,
    (SELECT count(*)::int FROM list_members m WHERE m.person_id = p.id) AS lists,
    cardinality(p.tags)::int AS tags,
    (SELECT count(DISTINCT e.capture_id)::int FROM ledger_links l JOIN ledger_entries e ON e.id = l.entry_id WHERE l.person_id = p.id) AS files,
    (SELECT count(*)::int FROM claims c WHERE c.person_id = p.id) AS claims
  FROM people p WHERE p.id = ANY ($ids::uuid[])`;
const COMPANY = `SELECT c.id,
    (SELECT count(*)::int FROM ledger_links l WHERE l.company_id = c.id) AS ledger,
    (SELECT count(*)::int FROM leads l WHERE l.company_id = c.id) AS leads,
    (SELECT count(*)::int FROM deals d WHERE d.company_id = c.id) AS deals,
    (SELECT count(*)::int FROM tasks t WHERE t.company_id = c.id) AS tasks,
    0 AS contacts,
    (SELECT count(*)::int FROM people p WHERE p.company_id = c.id) AS people,
    0 AS lists, 0 AS tags,
    (SELECT count(DISTINCT e.capture_id)::int FROM ledger_links l JOIN ledger_entries e ON e.id = l.entry_id WHERE l.company_id = c.id) AS files,
    (SELECT count(*)::int FROM claims k WHERE k.company_id = c.id) AS claims
  FROM companies c WHERE c.id = ANY ($ids::uuid[])`;

/** How much hangs on each record; files are the originals kept behind its ledger: mails, pages, cards, recordings. */
export async function workOf(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
): Promise<ReadonlyMap<string, Work>> {
  const rows = await ask<Work & { id: string }>(context, kind === 'person' ? PERSON : COMPANY, {
    ids: [...ids],
  });
  return new Map(rows.map(({ id, ...work }) => [id, work]));
}
