import type { Reply } from '@emporikon/contract';
import type { LookAlike } from '@emporikon/contract/lookAlikes';
import type { Context } from '../commands/context';
import { decodeCursor, encodeCursor } from '../http/paging';
import type { RecordKind } from './links';
import { ask } from './move';

interface Row {
  id: string;
  kind: RecordKind;
  members: string[];
  probability: number;
}
interface MemberRow {
  id: string;
  name: string;
  hint: string;
}
interface RunRow {
  started_at: Date;
  finished_at: Date | null;
  records: number;
  groups: number;
  trouble: string;
}

/** Names of people or companies by their ids. */
export async function namesOf(
  context: Context,
  kind: RecordKind,
  ids: readonly string[],
): Promise<ReadonlyMap<string, MemberRow>> {
  const rows = await ask<MemberRow>(
    context,
    kind === 'person'
      ? `SELECT p.id, p.full_name AS name, concat_ws(' · ', c.name, (SELECT value FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email' ORDER BY created_at LIMIT 1)) AS hint
           FROM people p LEFT JOIN companies c ON c.id = p.company_id WHERE p.id = ANY ($ids::uuid[])`
      : `SELECT id, name, concat_ws(' · ', domain, address) AS hint FROM companies WHERE id = ANY ($ids::uuid[])`,
    { ids: [...ids] },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** The groups that are still open, surest first. */
export async function listLookAlikes(
  context: Context,
  query: { kind: RecordKind; cursor?: string | undefined; limit: number; from: number },
): Promise<Reply<'GET /api/look-alikes'>> {
  const [probability = '', id = ''] = decodeCursor(query.cursor, 2);
  const rows = await ask<Row>(
    context,
    `SELECT id, kind, members, probability::float8 AS probability FROM look_alikes WHERE state = 'open' AND kind = $kind AND probability >= $from::real
        AND ($last = '' OR probability < $last::real OR (probability = $last::real AND id > nullif($id, '')::uuid))
      ORDER BY probability DESC, id LIMIT $limit`,
    { kind: query.kind, from: query.from, last: probability, id, limit: query.limit + 1 },
  );
  const page = rows.slice(0, query.limit);
  const names = await namesOf(
    context,
    query.kind,
    page.flatMap((row) => row.members),
  );
  const [count] = await ask<{ n: number }>(
    context,
    `SELECT count(*)::int AS n FROM look_alikes WHERE state = 'open' AND kind = $kind AND probability >= $from::real`,
    { kind: query.kind, from: query.from },
  );
  const [run] = await ask<RunRow>(
    context,
    'SELECT started_at, finished_at, records, groups, trouble FROM look_alike_runs WHERE kind = $kind ORDER BY started_at DESC LIMIT 1',
    { kind: query.kind },
  );
  const last = page.at(-1);
  const items = page.map((row): LookAlike => ({
    id: row.id,
    kind: row.kind,
    probability: row.probability,
    members: row.members.flatMap((member) => names.get(member) ?? []),
  }));
  return {
    items: items.filter((item) => item.members.length > 1),
    total: count?.n ?? 0,
    next: rows.length > page.length && last ? encodeCursor([String(last.probability), last.id]) : null,
    run: run
      ? {
          startedAt: run.started_at.toISOString(),
          finishedAt: run.finished_at?.toISOString() ?? null,
          records: run.records,
          groups: run.groups,
          trouble: run.trouble,
        }
      : null,
  };
}
