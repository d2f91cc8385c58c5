import type { TaskDetail, Task as TaskView } from '@emporikon/contract/tasks';
import { repeatInWords } from '@emporikon/core/calendar/repeatWords';
import { dueState } from '@emporikon/core/ledger/round';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { cappedCount } from '../db/counting';
import { Task } from '../db/models/tasks';
import { askWithFixedPlan } from '../db/prepared';
import { clashOfTask } from '../caldav/view';
import { attendeesOf } from '../meetings/view';
import { decodeCursor, pageOf } from '../http/paging';
import { notFound } from '../http/problems';

interface Row {
  id: string;
  version: number;
  title: string;
  kind: TaskView['kind'];
  due_at: Date;
  all_day: boolean;
  ends_at: Date | null;
  done_at: Date | null;
  done_by: string | null;
  kind_id: string | null;
  own_kind: string | null;
  starts_at: Date | null;
  zone: string;
  priority: TaskView['priority'];
  progress: number;
  repeat: string | null;
  given_by: string | null;
  giver: string | null;
  declined: { at: string; why: string } | null;
  decliner: string | null;
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
  project_id: string | null;
  project: string | null;
  case_id: string | null;
  case: string | null;
}

const SELECT = `
  SELECT t.id, t.version, t.title, t.kind, t.due_at, t.all_day, t.ends_at, t.done_at, u.id AS assignee_id, u.name AS assignee,
         t.kind_id, k.name AS own_kind, t.starts_at, t.zone, t.priority, t.progress, t.repeat, t.given_by, g.name AS giver, t.declined, x.name AS decliner, f.name AS done_by,
         p.id AS person_id, p.full_name AS person, c.id AS company_id, c.name AS company, l.id AS lead_id, l.title AS lead, d.id AS deal_id, d.title AS deal,
         j.id AS project_id, j.title AS project, s.id AS case_id, s.title AS case
    FROM tasks t JOIN users u ON u.id = t.assignee_id LEFT JOIN users g ON g.id = t.given_by LEFT JOIN users f ON f.id = t.done_by
    LEFT JOIN users x ON x.id = (t.declined ->> 'by')::uuid LEFT JOIN task_kinds k ON k.id = t.kind_id
    LEFT JOIN people p ON p.id = t.person_id LEFT JOIN companies c ON c.id = t.company_id LEFT JOIN leads l ON l.id = t.lead_id LEFT JOIN deals d ON d.id = t.deal_id
    LEFT JOIN projects j ON j.id = t.project_id LEFT JOIN cases s ON s.id = t.case_id`;

const named = (id: string | null, name: string | null): { id: string; name: string } | null =>
  id && name ? { id, name } : null;

function asTask(row: Row, context: Context): TaskView {
  const endAt = row.ends_at?.toISOString() ?? null;
  const due = { dueAt: row.due_at.toISOString(), endAt, allDay: row.all_day, zone: row.zone };
  return {
    id: row.id,
    version: row.version,
    title: row.title,
    kind: row.kind,
    ...due,
    ownKind: named(row.kind_id, row.own_kind),
    startAt: row.starts_at?.toISOString() ?? null,
    priority: row.priority,
    progress: row.progress,
    repeat: row.repeat,
    repeatWords: row.repeat ? repeatInWords(row.repeat) : null,
    givenBy: named(row.given_by, row.giver),
    declined: row.declined ? { by: row.decliner ?? '', at: row.declined.at, why: row.declined.why } : null,
    doneBy: row.done_by,
    assignee: { id: row.assignee_id, name: row.assignee },
    doneAt: row.done_at?.toISOString() ?? null,
    person: named(row.person_id, row.person),
    company: named(row.company_id, row.company),
    lead: named(row.lead_id, row.lead),
    deal: named(row.deal_id, row.deal),
    project: named(row.project_id, row.project),
    case: named(row.case_id, row.case),
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

/** What becomes of what somebody gave to others: open by when it is due, or done of late, newest first. */
export async function delegatedTasks(
  context: Context,
  giverId: string,
  { cursor, limit, state }: { cursor?: string | undefined; limit: number; state: 'open' | 'done' },
): Promise<{ items: TaskView[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const [key, order, beyond] = state === 'open' ? ['due_at', 'ASC', '>'] : ['done_at', 'DESC', '<'];
  const rows = await context.sequelize.query<Row & { key: string }>(
    `${SELECT.replace('SELECT', `SELECT t.${key}::text AS key,`)}
      WHERE (t.given_by = :giverId OR t.created_by = :giverId AND t.created_by <> t.assignee_id) AND t.assignee_id <> :giverId AND t.done_at IS ${state === 'open' ? 'NULL' : 'NOT NULL AND t.done_at > :since'}
        ${last ? `AND (t.${key}, t.id) ${beyond} (:at::timestamptz, :last::uuid)` : ''}
      ORDER BY t.${key} ${order}, t.id ${order} LIMIT :most`,
    {
      replacements: {
        giverId,
        at,
        last,
        most: limit + 1,
        since: new Date(context.now().getTime() - DONE_DAYS * 86_400_000),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return pageOf(
    rows,
    limit,
    (row) => asTask(row, context),
    (row) => [row.key, row.id],
  );
}
const DONE_DAYS = 30;

async function taskById(context: Context, id: string): Promise<TaskView | null> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE t.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return row ? asTask(row, context) : null;
}

/** @throws 404 */
export async function requireTask(context: Context, id: string): Promise<TaskView> {
  const task = await taskById(context, id);
  if (!task) throw notFound('There is no such task.');
  return task;
}

/** Some tasks, in no order. */
export async function tasksByIds(context: Context, ids: readonly string[]): Promise<TaskView[]> {
  const rows = await askWithFixedPlan<Row>(context, `${SELECT} WHERE t.id = ANY ($ids::uuid[])`, {
    ids: [...ids],
  });
  return rows.map((row) => asTask(row, context));
}

const MESSAGES_SHOWN = 100;

/** A task with all that belongs to it; null where there is none. */
export async function taskDetail(context: Context, id: string): Promise<TaskDetail | null> {
  const view = await taskById(context, id);
  const task = view && (await Task.findByPk(id, { transaction: context.tx }));
  if (!task) return null;
  const options = { type: QueryTypes.SELECT as const, transaction: context.tx };
  const watchers = await context.sequelize.query<{ id: string; name: string }>(
    'SELECT id, name FROM users WHERE id = ANY ($ids::uuid[]) ORDER BY name',
    { bind: { ids: task.watchers }, ...options },
  );
  const messages = await context.sequelize.query<{
    id: string;
    by: string;
    at: Date;
    words: string;
    is_mail: boolean;
  }>(
    `SELECT m.id, u.name AS by, m.at, m.words, m.message_id IS NOT NULL AS is_mail FROM task_messages m JOIN users u ON u.id = m.user_id
      WHERE m.task_id = $id ORDER BY m.at DESC, m.id DESC LIMIT ${MESSAGES_SHOWN}`,
    { bind: { id }, ...options },
  );
  const { notes, checklist, reminders, asked = null, entryId = null, place, isInviting } = task;
  return {
    ...view,
    ...{ notes, checklist, reminders, watchers, asked, entryId, place, isInviting },
    people: await attendeesOf(context, task),
    clash: await clashOfTask(context, task),
    messages: messages
      .reverse()
      .map(({ is_mail, at, ...message }) => ({ ...message, at: at.toISOString(), isMail: is_mail })),
  };
}

type Owner = 'person_id' | 'company_id' | 'lead_id' | 'deal_id' | 'project_id' | 'case_id';
const BY_OWNER: Record<Owner, string> = {
  person_id: 't.person_id',
  company_id: 't.company_id',
  lead_id: 't.lead_id',
  deal_id: 't.deal_id',
  project_id: 't.project_id',
  case_id: 't.case_id',
};

/** Or whoever is asked to come to it. */
const COMES_TO = ' OR t.id IN (SELECT a.task_id FROM task_people a WHERE a.person_id = :id)';

/** The most open moves a dossier shows. */
const MOVES_SHOWN = 20;

/** The open moves of a record, those due first before; at most twenty. */
export async function openMoves(context: Context, owner: Owner, id: string): Promise<TaskView[]> {
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE t.done_at IS NULL AND (${BY_OWNER[owner]} = :id${owner === 'person_id' ? COMES_TO : ''}) ORDER BY t.due_at, t.id LIMIT ${MOVES_SHOWN}`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => asTask(row, context));
}

/** The next move of each of some records: its earliest open task, or the meeting that a person comes to. */
export async function nextMoves(
  context: Context,
  owner: Owner,
  ids: readonly string[],
): Promise<Map<string, TaskView>> {
  if (!ids.length) return new Map();
  const own = `SELECT t.${owner} AS of_id, t.id, t.due_at FROM tasks t WHERE t.done_at IS NULL AND t.${owner} = ANY ($ids::uuid[])`;
  const comesTo = `SELECT a.person_id, t.id, t.due_at FROM task_people a JOIN tasks t ON t.id = a.task_id
    WHERE t.done_at IS NULL AND a.person_id = ANY ($ids::uuid[])`;
  // First which, then what they say: together they would be planned as one, and read every task there is.
  const found = await context.sequelize.query<{ of_id: string; id: string }>(
    `SELECT DISTINCT ON (m.of_id) m.of_id, m.id FROM (${owner === 'person_id' ? `${own} UNION ALL ${comesTo}` : own}) m ORDER BY m.of_id, m.due_at, m.id`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const tasks = await tasksByIds(
    context,
    found.map(({ id }) => id),
  );
  const byId = new Map(tasks.map((task) => [task.id, task]));
  return new Map(
    found.flatMap(({ of_id, id }) => {
      const task = byId.get(id);
      return task ? [[of_id, task] as const] : [];
    }),
  );
}
