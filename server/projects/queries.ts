import type { Parsed } from '@emporikon/contract';
import type { ProjectDetail, ProjectRow } from '@emporikon/contract/projects';
import { progressOf } from '@emporikon/core/lifecycle/projects';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { textQueryOf } from '../search/textQuery';
import { openMoves } from '../tasks/queries';

interface Row {
  id: string;
  version: number;
  title: string;
  stage_id: string;
  stage: string;
  kind: 'open' | 'done' | 'stopped';
  stage_since: Date;
  company: ProjectRow['company'];
  owner_id: string;
  owner: string;
  starts_on: string | null;
  due_on: string | null;
  progress: number | null;
  tasks: number;
  tasks_done: number;
  closed_at: Date | null;
  key: string;
}

const named = (table: string, label: string, column: string): string =>
  `(SELECT jsonb_build_object('id', r.id, 'name', r.${label}) FROM ${table} r WHERE r.id = p.${column})`;
const SHOWN = `
  SELECT p.id, p.version, p.title, p.stage_id, s.name AS stage, s.kind, p.stage_since, ${named('companies', 'name', 'company_id')} AS company,
         p.owner_id, u.name AS owner, p.starts_on::text, p.due_on::text, p.progress, p.closed_at, t.tasks, t.tasks_done, $key AS key
    FROM projects p JOIN project_stages s ON s.id = p.stage_id JOIN users u ON u.id = p.owner_id
   CROSS JOIN LATERAL (SELECT count(*)::int AS tasks, count(t.done_at)::int AS tasks_done FROM tasks t WHERE t.project_id = p.id) t`;

/** The date of today on the clock of whoever asks. */
const todayOf = (context: Context): string =>
  DateTime.fromJSDate(context.now(), { zone: requireActor(context).timeZone }).toISODate() ?? '';

const asRow = (row: Row, today: string): ProjectRow => ({
  id: row.id,
  version: row.version,
  title: row.title,
  stage: { id: row.stage_id, name: row.stage, kind: row.kind },
  stageSince: row.stage_since.toISOString(),
  company: row.company,
  owner: { id: row.owner_id, name: row.owner },
  startsOn: row.starts_on,
  dueOn: row.due_on,
  isLate: row.kind === 'open' && row.due_on !== null && row.due_on < today,
  progress: progressOf({
    kind: row.kind,
    byHand: row.progress,
    tasks: row.tasks,
    tasksDone: row.tasks_done,
  }),
  tasks: row.tasks,
  tasksDone: row.tasks_done,
  closedAt: row.closed_at?.toISOString() ?? null,
});

/** How a list is sorted: what has no due day comes last. */
const KEYS = {
  dueOn: { sql: "coalesce(p.due_on, 'infinity'::date)", type: 'date', natural: 'asc' },
  title: { sql: 'folded(p.title)', type: 'text', natural: 'asc' },
  createdAt: { sql: 'p.created_at', type: 'timestamptz', natural: 'desc' },
} as const;

export async function listProjects(
  context: Context,
  { cursor, limit, sort, direction, state, q, ...narrowed }: Parsed<'GET /api/projects', 'query'>,
): Promise<{ items: ProjectRow[]; next: string | null }> {
  const { sql: key, type, natural } = KEYS[sort];
  const way = direction ?? natural;
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const sought = q?.trim() ? textQueryOf(q) : null;
  if (q?.trim() && sought === null) return { items: [], next: null };
  const where = [
    state === 'all'
      ? ''
      : state === 'open'
        ? 'p.closed_at IS NULL'
        : `p.closed_at IS NOT NULL AND s.kind = :state`,
    narrowed.stage ? 'p.stage_id = :stage' : '',
    narrowed.owner ? 'p.owner_id = :owner' : '',
    narrowed.companyId ? 'p.company_id = :companyId' : '',
    narrowed.dealId ? 'p.deal_id = :dealId' : '',
    narrowed.personId
      ? 'p.id IN (SELECT r.project_id FROM project_people r WHERE r.person_id = :personId)'
      : '',
    sought ? 'p.names @@ :sought::tsquery' : '',
    last ? `(${key}, p.id) ${way === 'asc' ? '>' : '<'} (:at::${type}, :last::uuid)` : '',
  ].filter(Boolean);
  const rows = await context.sequelize.query<Row>(
    `${SHOWN.replace('$key', `(${key})::text`)} ${where.length ? `WHERE ${where.join(' AND ')}` : ''}
      ORDER BY ${key} ${way}, p.id ${way} LIMIT :most`,
    {
      replacements: { ...narrowed, state, sought, at, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const today = todayOf(context);
  return pageOf(
    rows,
    limit,
    (row) => asRow(row, today),
    (row) => [row.key, row.id],
  );
}

interface Whole extends Row {
  notes: string;
  deal: ProjectDetail['deal'];
  people: ProjectDetail['people'];
  created_at: Date;
}

/** One project with its people and open tasks. @throws 404 */
export async function projectDetail(context: Context, id: string): Promise<ProjectDetail> {
  const [row] = await context.sequelize.query<Whole>(
    `${SHOWN.replace(
      '$key AS key',
      `'' AS key, p.notes, p.created_at, ${named('deals', 'title', 'deal_id')} AS deal,
       (SELECT coalesce(jsonb_agg(jsonb_build_object('rowId', r.id, 'id', o.id, 'name', o.full_name, 'jobTitle', o.job_title, 'role', r.role)
               ORDER BY o.full_name), '[]') FROM project_people r JOIN people o ON o.id = r.person_id WHERE r.project_id = p.id) AS people`,
    )} WHERE p.id = :id`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) throw notFound('There is no such project.');
  return {
    ...asRow(row, todayOf(context)),
    progressByHand: row.progress !== null,
    notes: row.notes,
    deal: row.deal,
    people: row.people,
    moves: await openMoves(context, 'project_id', id),
    createdAt: row.created_at.toISOString(),
  };
}
