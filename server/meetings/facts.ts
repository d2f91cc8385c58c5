import type { MeetingFacts } from '@emporikon/core/calendar/invitations';
import { minutesFor } from '@emporikon/core/ledger/ranking';
import { DateTime } from 'luxon';
import type { Task } from '../db/models/tasks';

type Timed = Pick<Task, 'kind' | 'dueAt' | 'endsAt' | 'allDay' | 'zone'>;

/** When a task is over: as it says, with its day, or after what its kind usually takes. */
export const endsAtOf = ({ kind, dueAt, endsAt, allDay, zone }: Timed): Date =>
  endsAt ??
  (allDay
    ? DateTime.fromJSDate(dueAt, { zone }).startOf('day').plus({ days: 1 }).toJSDate()
    : new Date(dueAt.getTime() + minutesFor(kind) * 60_000));

/** The dates of whole days in the zone in which they count, the end not included. */
export const datesOf = (task: Timed): { start: string; end: string } => ({
  start: DateTime.fromJSDate(task.dueAt, { zone: task.zone }).toISODate() ?? '',
  end: DateTime.fromJSDate(endsAtOf(task), { zone: task.zone }).toISODate() ?? '',
});

/** What of a meeting those who are invited are told; null where nobody is to be invited. */
export function factsOf(task: Task | null): MeetingFacts | null {
  if (!task?.isInviting || task.doneAt) return null;
  const { title, place } = task;
  if (!task.allDay)
    return { title, startsAt: task.dueAt.toISOString(), endsAt: endsAtOf(task).toISOString(), place };
  const { start, end } = datesOf(task);
  return { title, startsAt: start, endsAt: end, place, allDay: true };
}

/** The name of a meeting for all calendars (RFC 5545, UID). */
export const uidOf = (taskId: string, publicUrl: string): string =>
  `meeting.${taskId}@${new URL(publicUrl).hostname}`;

const UID = /^meeting\.([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})@/;
export const taskIdOf = (uid: string): string | null => UID.exec(uid)?.[1] ?? null;
