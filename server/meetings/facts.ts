import type { MeetingFacts } from '@emporikon/core/calendar/invitations';
import { minutesFor } from '@emporikon/core/ledger/ranking';
import type { Task } from '../db/models/tasks';

type Timed = Pick<Task, 'kind' | 'dueAt' | 'endsAt' | 'allDay'>;

/** When a task with a time is over: as it says, or after what its kind usually takes. */
export const endsAtOf = ({ kind, dueAt, endsAt }: Timed): Date =>
  endsAt ?? new Date(dueAt.getTime() + minutesFor(kind) * 60_000);

/** What of a meeting those who are invited are told; null where nobody is to be invited, or it has no time yet. */
export function factsOf(task: Task | null): MeetingFacts | null {
  if (!task?.isInviting || task.allDay || task.doneAt) return null;
  return {
    title: task.title,
    startsAt: task.dueAt.toISOString(),
    endsAt: endsAtOf(task).toISOString(),
    place: task.place,
  };
}

/** The name of a meeting for all calendars (RFC 5545, UID). */
export const uidOf = (taskId: string, publicUrl: string): string =>
  `meeting.${taskId}@${new URL(publicUrl).hostname}`;

const UID = /^meeting\.([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})@/;
export const taskIdOf = (uid: string): string | null => UID.exec(uid)?.[1] ?? null;
