import type { CalendarItem } from '@emporikon/contract/meetings';
import { dueAgain, durationOf } from '@emporikon/core/calendar/repeat';
import type { FreeDays } from '@emporikon/core/calendar/workingDays';
import { minutesFor } from '@emporikon/core/ledger/ranking';
import { dueState } from '@emporikon/core/ledger/round';
import type { MoveKind } from '@emporikon/core/reading/intents/moves';
import { Op, QueryTypes } from 'sequelize';
import { freeDaysFor } from '../calendar/free';
import { requireActor, type Context } from '../commands/context';
import { TaskPerson } from '../db/models/meetings';

interface Row {
  id: string;
  version: number;
  title: string;
  kind: MoveKind;
  due_at: Date;
  ends_at: Date | null;
  all_day: boolean;
  zone: string;
  place: string;
  done_at: Date | null;
  repeat: string | null;
  first_at: Date | null;
  occurs_at: Date | null;
  left_out: Date[];
  assignee_id: string;
  assignee: string;
  people: string[] | null;
  about: string | null;
  answer: CalendarItem['answer'];
}
export interface Within {
  from: Date;
  until: Date;
}

const MOST = 2000;
const DAY_MS = 86_400_000;
/** Nothing lasts longer. */
const LONGEST_MS = 62 * DAY_MS;
const MOST_EXPECTED_EACH = 100;

/** Of whom a task is: whoever does it, and colleagues who are asked to come and have not declined. */
const OF_WHOM = `(t.assignee_id = ANY ($who::uuid[]) OR t.id IN
  (SELECT a.task_id FROM task_people a WHERE a.user_id = ANY ($who::uuid[]) AND a.answer <> 'declined'))`;
const MINUTES = (['call', 'mail', 'meeting', 'visit', 'task'] as const)
  .map((kind) => `WHEN '${kind}' THEN ${minutesFor(kind)}`)
  .join(' ');
const ENDS = `coalesce(t.ends_at, t.due_at + CASE WHEN t.all_day THEN interval '1 day' ELSE make_interval(mins => CASE t.kind ${MINUTES} END) END)`;
/** What repeats and began before is looked at whenever it was due. */
const IN_TIME = `t.due_at < $until AND (t.due_at >= $earliest AND ${ENDS} > $from)`;

const REPEATING = 't.repeat IS NOT NULL AND t.done_at IS NULL AND t.due_at < $until';

const ask = (
  context: Context,
  who: readonly string[],
  { from, until }: Within,
  where: string,
): Promise<Row[]> =>
  context.sequelize.query<Row>(
    `SELECT t.id, t.version, t.title, t.kind, t.due_at, ${ENDS} AS ends_at, t.all_day, t.zone, t.place, t.done_at, t.repeat, t.first_at, t.occurs_at, t.left_out,
            u.id AS assignee_id, u.name AS assignee, mine.answer, coalesce(p.full_name, l.title, d.title, c.name) AS about,
            (SELECT array_agg(coalesce(nullif(a.name, ''), a.email) ORDER BY a.name) FROM task_people a WHERE a.task_id = t.id) AS people
       FROM tasks t JOIN users u ON u.id = t.assignee_id LEFT JOIN people p ON p.id = t.person_id LEFT JOIN companies c ON c.id = t.company_id
       LEFT JOIN leads l ON l.id = t.lead_id LEFT JOIN deals d ON d.id = t.deal_id LEFT JOIN task_people mine ON mine.task_id = t.id AND mine.user_id = $me
      WHERE ${OF_WHOM} AND ${where} ORDER BY t.due_at, t.id LIMIT ${MOST}`,
    {
      bind: {
        who: [...who],
        ...{ from, until, me: context.actor?.id ?? null },
        earliest: new Date(from.getTime() - LONGEST_MS),
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );

function itemOf(row: Row, context: Context): CalendarItem {
  const endAt = row.ends_at?.toISOString() ?? null;
  const due = { dueAt: row.due_at.toISOString(), endAt, allDay: row.all_day, zone: row.zone };
  const state = dueState(due, context.now().toISOString(), context.actor?.timeZone ?? row.zone);
  return {
    key: row.id,
    taskId: row.id,
    version: row.version,
    ...{ title: row.title, kind: row.kind, place: row.place, zone: row.zone, allDay: row.all_day },
    start: due.dueAt,
    end: endAt ?? due.dueAt,
    isDone: row.done_at !== null,
    isExpected: false,
    occursAt: null,
    isOverdue: row.done_at === null && state === 'overdue',
    assignee: { id: row.assignee_id, name: row.assignee },
    with: row.people ?? [],
    about: row.about ?? '',
    answer: row.answer,
  };
}

/** When a task of a series will come again within a stretch, as far as its rule says so today. */
function expectedOf(row: Row, { from, until }: Within, free: FreeDays, context: Context): CalendarItem[] {
  if (!row.repeat || !row.occurs_at || !row.first_at || row.done_at || durationOf(row.repeat)) return [];
  const lasts = (row.ends_at ?? row.due_at).getTime() - row.due_at.getTime();
  const found: CalendarItem[] = [];
  let occursAt = row.occurs_at;
  let doneAt = row.due_at;
  for (let tries = 0; tries < MOST_EXPECTED_EACH; tries++) {
    const next = dueAgain(
      {
        repeat: row.repeat,
        occursAt: occursAt.toISOString(),
        firstAt: row.first_at.toISOString(),
        doneAt: doneAt.toISOString(),
        zone: row.zone,
        leftOut: row.left_out.map((at) => at.toISOString()),
      },
      free,
    );
    if (!next || next.dueAt.toMillis() >= until.getTime()) return found;
    occursAt = next.occursAt.toJSDate();
    doneAt = next.dueAt.toJSDate();
    const end = new Date(doneAt.getTime() + lasts);
    if (end > from)
      found.push({
        ...itemOf(row, context),
        key: `${row.id}/${doneAt.toISOString()}`,
        start: doneAt.toISOString(),
        end: end.toISOString(),
        isExpected: true,
        occursAt: occursAt.toISOString(),
        isOverdue: false,
      });
  }
  return found;
}

async function expectedWithin(
  context: Context,
  repeating: readonly Row[],
  within: Within,
): Promise<CalendarItem[]> {
  const freeOf = new Map<string, FreeDays>();
  const expected: CalendarItem[] = [];
  for (const row of repeating) {
    const free = freeOf.get(row.assignee_id) ?? (await freeDaysFor(context, row.assignee_id));
    freeOf.set(row.assignee_id, free);
    expected.push(...expectedOf(row, within, free, context));
  }
  return expected;
}

/** What stands in the calendar of some colleagues, as far as the actor may see it, in order. */
export async function calendarOf(
  context: Context,
  who: readonly string[],
  within: Within,
): Promise<CalendarItem[]> {
  const rows = await ask(context, who, within, IN_TIME);
  const repeating = await ask(context, who, within, REPEATING);
  const expected = await expectedWithin(context, repeating, within);
  return [...rows.map((row) => itemOf(row, context)), ...expected]
    .sort((a, b) => a.start.localeCompare(b.start) || a.key.localeCompare(b.key))
    .slice(0, MOST);
}

/** A time that somebody is not free. */
export interface Busy {
  taskId: string;
  userId: string;
  start: Date;
  end: Date;
}

/** When colleagues are not free by what repeats and has yet to come. */
async function expectedBusy(context: Context, who: readonly string[], within: Within): Promise<Busy[]> {
  const rows = await ask(context, who, within, `NOT t.all_day AND ${REPEATING}`);
  const expected = await expectedWithin(context, rows, within);
  const asked = await TaskPerson.findAll({
    where: {
      taskId: [...new Set(expected.map(({ taskId }) => taskId))],
      userId: [...who],
      answer: { [Op.ne]: 'declined' },
    },
    transaction: context.tx,
  });
  return expected.flatMap(({ taskId, assignee, start, end }) => {
    const coming = asked.flatMap((person) => (person.taskId === taskId ? (person.userId ?? []) : []));
    return [...new Set([assignee.id, ...coming])]
      .filter((userId) => who.includes(userId))
      .map((userId) => ({ taskId, userId, start: new Date(start), end: new Date(end) }));
  });
}

/** When colleagues are not free, whatever it is: what they do, and what they said they come to. To be called past sight. */
export async function busyTimes(context: Context, who: readonly string[], within: Within): Promise<Busy[]> {
  const { from, until } = within;
  const rows = await context.sequelize.query<Busy>(
    `SELECT t.id AS "taskId", w.id AS "userId", t.due_at AS start, ${ENDS} AS "end"
       FROM tasks t JOIN unnest($who::uuid[]) w (id) ON t.assignee_id = w.id OR EXISTS
            (SELECT 1 FROM task_people a WHERE a.task_id = t.id AND a.user_id = w.id AND a.answer <> 'declined')
      WHERE NOT t.all_day AND t.done_at IS NULL AND ${IN_TIME} ORDER BY t.due_at LIMIT ${MOST}`,
    {
      bind: { who: [...who], from, until, earliest: new Date(from.getTime() - LONGEST_MS) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return [...rows, ...(await expectedBusy(context, who, within))];
}

/** The colleagues a calendar is asked of. */
export async function calendarUsers(
  context: Context,
  who: string | undefined,
): Promise<{ id: string; name: string }[]> {
  const ids = who === 'team' ? null : (who?.split(',') ?? [requireActor(context).id]);
  return context.sequelize.query<{ id: string; name: string }>(
    `SELECT id, name FROM users WHERE active ${ids ? 'AND id::text = ANY ($ids)' : ''} ORDER BY name LIMIT 50`,
    { bind: { ids: ids ?? [] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}
