import type { Task as TaskView } from '@emporikon/contract/tasks';
import { dueState } from '@emporikon/core/ledger/round';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { cappedCount } from '../db/counting';
import { decodeCursor, pageOf } from '../http/paging';

interface Row {
  id: string;
  version: number;
  title: string;
  kind: TaskView['kind'];
  due_at: Date;
  all_day: boolean;
  ends_at: Date | null;
  done_at: Date | null;
  assignee_id: string;
  assignee: string;
  person_id: string | null;
  person: string | null;
  company_id: string | null;
  company: string | null;
  lead_id: string | null;
  lead: string | null;
  deal_id: string | null;
  deal: string | null;
}

const SELECT = `
  SELECT t.id, t.version, t.title, t.kind, t.due_at, t.all_day, t.ends_at, t.done_at, u.id AS assignee_id, u.name AS assignee,
         p.id AS person_id, p.full_name AS person, c.id AS company_id, c.name AS company, l.id AS lead_id, l.title AS lead, d.id AS deal_id, d.title AS deal
    FROM tasks t JOIN users u ON u.id = t.assignee_id
    LEFT JOIN people p ON p.id = t.person_id LEFT JOIN companies c ON c.id = t.company_id LEFT JOIN leads l ON l.id = t.lead_id LEFT JOIN deals d ON d.id = t.deal_id`;

const named = (id: string | null, name: string | null): { id: string; name: string } | null =>
  id && name ? { id, name } : null;

function asTask(row: Row, context: Context): TaskView {
  const due = { dueAt: row.due_at.toISOString(), allDay: row.all_day };
  return {
    id: row.id,
    version: row.version,
    title: row.title,
    kind: row.kind,
    ...due,
    endAt: row.ends_at?.toISOString() ?? null,
    assignee: { id: row.assignee_id, name: row.assignee },
    doneAt: row.done_at?.toISOString() ?? null,
    person: named(row.person_id, row.person),
    company: named(row.company_id, row.company),
    lead: named(row.lead_id, row.lead),
    deal: named(row.deal_id, row.deal),
    state: dueState(due, context.now().toISOString(), context.actor?.timeZone ?? 'utc'),
  };
}

/** A page of the open tasks of somebody, or of everybody, those due first before, and how many there are. */
export async function openTasks(
  context: Context,
  assigneeId: string | null,
  { cursor, limit }: { cursor?: string; limit: number },
): Promise<{ items: TaskView[]; next: string | null; total: number }> {
  const [due = '', last = ''] = decodeCursor(cursor, 2);
  const open = `t.done_at IS NULL ${assigneeId ? 'AND t.assignee_id = :assigneeId' : ''}`;
  const options = {
    replacements: { assigneeId, due, last, most: limit + 1 },
    type: QueryTypes.SELECT as const,
    transaction: context.tx,
  };
  const rows = await context.sequelize.query<Row & { due_key: string }>(
    `${SELECT.replace('SELECT', 'SELECT t.due_at::text AS due_key,')} WHERE ${open}
       ${last ? 'AND (t.due_at, t.id) > (:due::timestamptz, :last::uuid)' : ''} ORDER BY t.due_at, t.id LIMIT :most`,
    options,
  );
  const [count] = await context.sequelize.query<{ total: number }>(
    `SELECT ${cappedCount(`tasks t WHERE ${open}`)} AS total`,
    options,
  );
  return {
    ...pageOf(
      rows,
      limit,
      (row) => asTask(row, context),
      (row) => [row.due_key, row.id],
    ),
    total: count?.total ?? 0,
  };
}

export async function taskById(context: Context, id: string): Promise<TaskView | null> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE t.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return row ? asTask(row, context) : null;
}

type Owner = 'person_id' | 'company_id' | 'lead_id' | 'deal_id';
const BY_OWNER: Record<Owner, string> = {
  person_id: 't.person_id',
  company_id: 't.company_id',
  lead_id: 't.lead_id',
  deal_id: 't.deal_id',
};

/** The most open moves a dossier shows. */
const MOVES_SHOWN = 20;

/** The open moves of a record, those due first before; at most twenty. */
export async function openMoves(context: Context, owner: Owner, id: string): Promise<TaskView[]> {
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE t.done_at IS NULL AND ${BY_OWNER[owner]} = :id ORDER BY t.due_at, t.id LIMIT ${MOVES_SHOWN}`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => asTask(row, context));
}

/** The next move of each of some records: its earliest open task. */
export async function nextMoves(
  context: Context,
  owner: Owner,
  ids: readonly string[],
): Promise<Map<string, TaskView>> {
  if (!ids.length) return new Map();
  const key = BY_OWNER[owner];
  const rows = await context.sequelize.query<Row>(
    `${SELECT.replace('SELECT', `SELECT DISTINCT ON (${key})`)}
      WHERE t.done_at IS NULL AND ${key} = ANY(ARRAY[:ids]::uuid[]) ORDER BY ${key}, t.due_at, t.id`,
    { replacements: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.flatMap((row) => (row[owner] ? [[row[owner], asTask(row, context)]] : [])));
}
