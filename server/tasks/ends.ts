import { DateTime } from 'luxon';
import { invalid } from '../http/problems';

const dayIn = (at: Date, zone: string): DateTime => DateTime.fromJSDate(at, { zone }).startOf('day');

/** How many days something of whole days takes, on the clock of its zone. */
export const lengthInDays = (task: { dueAt: Date; endsAt?: Date | null; zone: string }): number =>
  task.endsAt
    ? Math.max(1, Math.round(dayIn(task.endsAt, task.zone).diff(dayIn(task.dueAt, task.zone), 'days').days))
    : 1;

/** When the day after the last of so many begins; null for one day, which needs no end. */
export const endAfterDays = (dueAt: Date, days: number, zone: string): Date | null =>
  days > 1 ? dayIn(dueAt, zone).plus({ days }).toJSDate() : null;

/**
 * Where a next move ends: at its time, or, of whole days, where the day after its last begins; null for one of a single day
 * or with a beginning only.
 * @throws 422 when it ends before it begins
 */
export function endOf(move: {
  dueAt: string;
  endAt?: string | null | undefined;
  allDay: boolean;
  zone: string;
}): Date | null {
  if (!move.endAt) return null;
  const [dueAt, endsAt] = [new Date(move.dueAt), new Date(move.endAt)];
  if (endsAt <= dueAt)
    throw invalid('A next move ends after it begins.', { fields: { endAt: 'is before it begins' } });
  return move.allDay
    ? endAfterDays(dueAt, lengthInDays({ dueAt, endsAt, zone: move.zone }), move.zone)
    : endsAt;
}

/** Where it ends once it begins at another time: it takes as long as it did. */
export function endMovedTo(
  dueAt: Date,
  task: { dueAt: Date; endsAt?: Date | null; allDay: boolean; zone: string },
): Date | null {
  if (task.allDay) return endAfterDays(dueAt, lengthInDays(task), task.zone);
  return task.endsAt ? new Date(task.endsAt.getTime() + dueAt.getTime() - task.dueAt.getTime()) : null;
}
