import { DateTime } from 'luxon';
import { isTaskRule, occurrenceAfter } from './recurrence';
import { isWorkingDay, nextWorkingDay, workingDayFrom, workingDayUntil, type FreeDays } from './workingDays';

/**
 * How a task repeats: an RRULE of RFC 5545 ("FREQ=MONTHLY;BYDAY=1MO"), or an ISO 8601 duration after it was done ("P3W").
 */
export type Repeat = string;

const AFTER_DONE = /^P([1-9]\d{0,2})([DWMY])$/;
const UNITS = { D: 'days', W: 'weeks', M: 'months', Y: 'years' } as const;

/** The time after which it comes again, where a repeat counts from when it was done. */
export function durationOf(
  repeat: Repeat,
): { count: number; unit: 'days' | 'weeks' | 'months' | 'years' } | null {
  const match = AFTER_DONE.exec(repeat);
  return match ? { count: Number(match[1]), unit: UNITS[match[2] as keyof typeof UNITS] } : null;
}

export const isRepeat = (repeat: string): boolean => durationOf(repeat) !== null || isTaskRule(repeat);

interface Done {
  repeat: Repeat;
  /** When it was to take place by the rule, before a free day moved it; ISO 8601. */
  occursAt: string;
  /** The first of its series, ISO 8601. */
  firstAt: string;
  /** ISO 8601. */
  doneAt: string;
  /** IANA name of the zone in which its days count. */
  zone: string;
  /** Times of its rule at which it does not come, ISO 8601. */
  leftOut?: readonly string[];
}

const CODES = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
/** Whether a rule asks for this day although nobody works on it: every day, or a weekday of the weekend by its name. */
const insistsOn = (repeat: Repeat, day: DateTime, free: FreeDays): boolean =>
  (/FREQ=DAILY/.test(repeat) && !/BYDAY=/.test(repeat)) ||
  (free.weekend.includes(day.weekday) &&
    new RegExp(`BYDAY=[^;]*${CODES[day.weekday - 1] ?? ''}`).test(repeat) &&
    !/BYSETPOS/.test(repeat));

const keepTime = (day: DateTime, time: DateTime): DateTime =>
  day.set({ hour: time.hour, minute: time.minute, second: time.second });

/**
 * When a task that was done is due again. By a rule it is its next occurrence after both the one that was done and the day
 * it was done, so that what was missed does not pile up; one on a free day comes on the working day before (common
 * practice), unless the rule insists on it.
 * @returns the rule's own time and when it is due, or null once the series is over
 */
export function dueAgain(done: Done, free: FreeDays): { occursAt: DateTime; dueAt: DateTime } | null {
  const { repeat, zone } = done;
  const [occurs, first, ended] = [done.occursAt, done.firstAt, done.doneAt].map((iso) =>
    DateTime.fromISO(iso, { zone }),
  );
  if (!occurs || !first || !ended) return null;
  const duration = durationOf(repeat);
  if (duration) {
    const day = workingDayFrom(ended.plus({ [duration.unit]: duration.count }), free);
    const dueAt = keepTime(day, occurs);
    return { occursAt: dueAt, dueAt };
  }
  const recurrence = { rule: repeat, start: first.toFormat("yyyy-MM-dd'T'HH:mm:ss"), zone };
  const leftOut = new Set((done.leftOut ?? []).map((iso) => Date.parse(iso)));
  let at: DateTime = occurs > ended.endOf('day') ? occurs : ended.endOf('day');
  for (let tries = 0; tries < 40 + leftOut.size; tries++) {
    const next = occurrenceAfter(recurrence, at);
    if (!next) return null;
    at = next;
    if (leftOut.has(next.toMillis())) continue;
    if (isWorkingDay(next, free) || insistsOn(repeat, next, free)) return { occursAt: next, dueAt: next };
    const before = keepTime(workingDayUntil(next, free), next);
    if (before.startOf('day') > occurs.startOf('day') && before.startOf('day') > ended.startOf('day'))
      return { occursAt: next, dueAt: before };
  }
  return null;
}

/**
 * Whether a rule has a time after the one at which it stands, and it is not left out.
 * @param at ISO 8601
 */
export function isLaterTime(
  { repeat, occursAt, firstAt, zone, leftOut = [] }: Omit<Done, 'doneAt'>,
  at: string,
): boolean {
  if (durationOf(repeat)) return false;
  const [first, time] = [firstAt, at].map((iso) => DateTime.fromISO(iso, { zone }));
  if (!first || !time || time <= DateTime.fromISO(occursAt)) return false;
  if (leftOut.some((iso) => Date.parse(iso) === time.toMillis())) return false;
  const recurrence = { rule: repeat, start: first.toFormat("yyyy-MM-dd'T'HH:mm:ss"), zone };
  return occurrenceAfter(recurrence, time.minus({ seconds: 1 }))?.toMillis() === time.toMillis();
}

/**
 * When a task that repeats is due for the first time, where nobody said so: by a rule of certain days on the first of them
 * from today on, by any other on the next working day. At local midnight of `now`'s zone.
 */
export function firstDue(repeat: Repeat, now: DateTime, free: FreeDays): DateTime {
  const today = now.startOf('day');
  const names = durationOf(repeat) === null && /BY(?:DAY|MONTHDAY|MONTH|YEARDAY|WEEKNO)=/.test(repeat);
  const start = today.toFormat("yyyy-MM-dd'T'HH:mm");
  const first = names
    ? occurrenceAfter(
        { rule: repeat.replace(/;INTERVAL=\d+/, ''), start, zone: now.zoneName ?? 'utc' },
        today.minus({ minutes: 1 }),
      )
    : null;
  if (!first) return nextWorkingDay(now, free);
  if (isWorkingDay(first, free) || insistsOn(repeat, first, free)) return first;
  const before = workingDayUntil(first, free);
  return before < today ? first : before;
}
