import { DateTime } from 'luxon';
import type { Change } from '../db/models/ledger';
import type { Colleague, Told } from './told';

type Row = Record<string, unknown>;

const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const idOf = (value: unknown): string | null => text(value) || null;
const LONGEST_EXCERPT = 300;

const about = (id: string | null, row: Row): Partial<Told> => ({
  ...(id ? { taskId: id } : {}),
  personId: idOf(row.personId),
  companyId: idOf(row.companyId),
  leadId: idOf(row.leadId),
  dealId: idOf(row.dealId),
});

/** When it is due: a whole day is the same date for everybody, a time is told on the reader's clock. */
const dueIn = (zone: string, row: Row): string =>
  row.allDay
    ? DateTime.fromISO(text(row.dueAt), { zone: text(row.zone) || zone }).toFormat('ccc d LLL')
    : DateTime.fromISO(text(row.dueAt), { zone }).toFormat('ccc d LLL, HH:mm');

/** Who gave it, and whoever wants to hear of it. */
const concerned = (row: Row): string[] => [
  ...new Set([
    text(row.givenBy),
    text(row.createdBy),
    ...(Array.isArray(row.watchers) ? row.watchers.map(text) : []),
  ]),
];

/** What a change of a task tells: whoever is given it, and whoever gave it when it is done, moved, passed on or declined. */
export function ofTask(
  { table, id, before, after }: Change,
  colleagues: readonly Colleague[],
  actorId: string | null,
): Told[] {
  if (table !== 'tasks') return [];
  const zoneOf = (userId: string): string => colleagues.find((one) => one.id === userId)?.timeZone ?? 'utc';
  const nameOf = (userId: unknown): string => colleagues.find((one) => one.id === userId)?.name ?? '';
  const tell = (row: Row, users: readonly string[], kind: Told['kind'], detail?: string): Told[] =>
    [...new Set(users)].filter(Boolean).map((userId) => ({
      userId,
      kind,
      title: text(row.title),
      detail: detail ?? dueIn(zoneOf(userId), row),
      ...about(after ? id : null, row),
    }));
  if (!after)
    return before && !before.doneAt ? tell(before, [text(before.assigneeId)], 'taken back', '') : [];
  const assignee = text(after.assigneeId);
  // A repeat that comes again is nothing new to whoever does it.
  if (!before) return after.occursAt !== after.firstAt ? [] : tell(after, [assignee], 'given');
  const told: Told[] = [];
  const past = text(before.assigneeId);
  const isDeclined =
    after.declined !== null && after.declined !== undefined && before.declined !== after.declined;
  if (past !== assignee && isDeclined)
    told.push(
      ...tell(after, [assignee, ...concerned(before)], 'declined', text((after.declined as Row).why)),
    );
  else if (past !== assignee && !after.doneAt) {
    const others = concerned(before).filter((one) => one !== assignee && one !== past);
    told.push(
      ...tell(after, [assignee], 'given'),
      ...(assignee === actorId
        ? tell(after, [past], 'taken back', '')
        : tell(after, [past], 'passed on', nameOf(assignee))),
      ...tell(after, others, 'passed on', nameOf(assignee)),
    );
  }
  if (!before.doneAt && after.doneAt) told.push(...tell(after, [...concerned(after), assignee], 'done', ''));
  if (before.dueAt !== after.dueAt && past === assignee && !after.doneAt)
    told.push(...tell(after, [...concerned(after), assignee], 'moved'));
  if (before.askedAfterAt !== after.askedAfterAt && after.askedAfterAt)
    told.push(...tell(after, [assignee], 'asked after'));
  return told;
}

/** What somebody said about a task, for everybody else who has to do with it. */
export function ofMessage({ table, before, after }: Change, tasks: ReadonlyMap<string, Row>): Told[] {
  if (table !== 'task_messages' || before || !after) return [];
  const task = tasks.get(text(after.taskId));
  if (!task) return [];
  return [...new Set([text(task.assigneeId), ...concerned(task)])].filter(Boolean).map((userId) => ({
    userId,
    kind: 'answered' as const,
    title: text(task.title),
    detail: text(after.words).slice(0, LONGEST_EXCERPT),
    ...about(text(after.taskId), task),
  }));
}

const ANSWERED: Record<string, string> = {
  accepted: 'accepted',
  tentative: 'may come',
  declined: 'declined',
};

/** Who comes to a meeting: a colleague who is asked to, and, for whoever holds it, what somebody answers. */
export function ofAttendee(
  { table, before, after }: Change,
  tasks: ReadonlyMap<string, Row>,
  colleagues: readonly Colleague[],
): Told[] {
  const task = table === 'task_people' && after ? tasks.get(text(after.taskId)) : undefined;
  if (!task || !after || task.doneAt) return [];
  const place = about(text(after.taskId), task);
  if (!before) {
    const userId = text(after.userId);
    const zone = colleagues.find(({ id }) => id === userId)?.timeZone ?? 'utc';
    return userId
      ? [{ userId, kind: 'invited', title: text(task.title), detail: dueIn(zone, task), ...place }]
      : [];
  }
  const answer = ANSWERED[text(after.answer)];
  if (!answer || (before.answeredAt === after.answeredAt && before.answer === after.answer)) return [];
  const who = text(after.name) || text(after.email);
  const says = after.proposesStart ? 'proposes another time' : answer;
  return [
    {
      userId: text(task.assigneeId),
      kind: 'coming',
      title: text(task.title),
      detail: `${who} ${says}${text(after.comment) ? `: ${text(after.comment).slice(0, LONGEST_EXCERPT)}` : ''}`,
      ...place,
    },
  ];
}

const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`;

/** One notice for all that was handed over, or came back. */
export function handedOver(
  changes: readonly Change[],
  colleagues: readonly Colleague[],
  actorId: string | null,
): Told[] {
  const handover = changes.find(({ table }) => table === 'handovers')?.after;
  if (!handover) return [];
  const [tasks, leads] = ['tasks', 'leads'].map(
    (name) => changes.filter(({ table }) => table === name).length,
  );
  const what = [tasks ? counted(tasks, 'task') : '', leads ? counted(leads, 'lead') : '']
    .filter(Boolean)
    .join(' and ');
  const to = handover.returnedAt ? handover.fromId : handover.toId;
  return [text(to), text(handover.fromId)]
    .filter((userId, index, all) => all.indexOf(userId) === index && userId !== actorId)
    .filter((userId) => colleagues.some(({ id }) => id === userId))
    .map((userId) => ({
      userId,
      kind: 'handed over' as const,
      title: what,
      detail: handover.returnedAt ? 'back' : (colleagues.find(({ id }) => id === handover.toId)?.name ?? ''),
    }));
}
