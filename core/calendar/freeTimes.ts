import { DateTime } from 'luxon';
import { isWorkingDay, MONDAY_TO_FRIDAY, workingDaysOn, type FreeDays } from './workingDays';
import { readTypedDay } from './typedDay';

/** A stretch of time, ISO 8601. */
export interface Stretch {
  start: string;
  end: string;
}

/** A colleague whose time is looked for. */
export interface Schedule {
  /** IANA name. */
  zone: string;
  /** When they work, on their clock: HH:MM. */
  from: string;
  until: string;
  free: FreeDays;
  busy: readonly Stretch[];
}

const STEP_MINUTES = 30;
/** As many a day, so that several days are proposed. */
const MOST_A_DAY = 3;
const FURTHEST_DAYS = 62;

const atTime = (day: DateTime, time: string): DateTime => {
  const [hour = 0, minute = 0] = time.split(':').map(Number);
  return day.startOf('day').set({ hour, minute });
};

/** Whether somebody is at work and free throughout a stretch. */
function isFree(schedule: Schedule, start: DateTime, end: DateTime): boolean {
  const local = start.setZone(schedule.zone);
  if (!isWorkingDay(local, schedule.free)) return false;
  if (local < atTime(local, schedule.from) || end.setZone(schedule.zone) > atTime(local, schedule.until))
    return false;
  const [from, until] = [start.toMillis(), end.toMillis()];
  return !schedule.busy.some((busy) => Date.parse(busy.start) < until && Date.parse(busy.end) > from);
}

/**
 * When several colleagues are free at once, in order: on the hour or the half, within the hours of all of them, at most three a
 * day.
 * @param within from when to when to look, ISO 8601; at most two months are looked through
 * @param minutes how long it takes
 */
export function findFreeTimes(
  schedules: readonly Schedule[],
  within: Stretch,
  minutes: number,
  most: number,
): Stretch[] {
  const zone = schedules[0]?.zone ?? 'utc';
  const begin = DateTime.fromISO(within.start, { zone });
  const finish = DateTime.min(DateTime.fromISO(within.end, { zone }), begin.plus({ days: FURTHEST_DAYS }));
  const found: Stretch[] = [];
  const perDay = new Map<string, number>();
  // From the next half hour on.
  let start = begin.startOf('hour');
  while (start < begin) start = start.plus({ minutes: STEP_MINUTES });
  while (start < finish && found.length < most) {
    const end = start.plus({ minutes });
    const day = start.toISODate() ?? '';
    const isFitting = end <= finish && (perDay.get(day) ?? 0) < MOST_A_DAY;
    if (isFitting && schedules.every((schedule) => isFree(schedule, start, end))) {
      found.push({ start: start.toUTC().toISO() ?? '', end: end.toUTC().toISO() ?? '' });
      perDay.set(day, (perDay.get(day) ?? 0) + 1);
      // What is proposed next does not overlap it.
      while (start < end) start = start.plus({ minutes: STEP_MINUTES });
    } else start = start.plus({ minutes: STEP_MINUTES });
  }
  return found;
}

const MINUTES = /(\d{1,3}) ?(?:m|min|mins|minutes)\b/;
const HOURS = /(\d{1,2})(?:[.,](5|25|75))? ?(?:h|hr|hrs|hours?)\b/;
const HALF_HOUR = /\b(?:half an hour|a half hour)\b/;
const AN_HOUR = /\b(?:an|one) hour(?: and a half)?\b/;
const USUAL_MINUTES = 30;
const USUAL_DAYS = 10;
const LONGEST_MINUTES = 600;

function takeMinutes(text: string): { minutes: number; rest: string } {
  const take = (
    pattern: RegExp,
    of: (match: RegExpExecArray) => number,
  ): { minutes: number; rest: string } | null => {
    const match = pattern.exec(text);
    return match ? { minutes: of(match), rest: text.replace(pattern, ' ') } : null;
  };
  const found =
    take(HALF_HOUR, () => 30) ??
    take(AN_HOUR, ([words]) => (words.endsWith('half') ? 90 : 60)) ??
    take(HOURS, (match) => Number(match[1]) * 60 + Number(`0.${match[2] ?? '0'}`) * 60) ??
    take(MINUTES, (match) => Number(match[1]));
  if (!found) return { minutes: USUAL_MINUTES, rest: text };
  return { ...found, minutes: Math.min(LONGEST_MINUTES, Math.max(5, Math.round(found.minutes))) };
}

const WEEK = /\b(?:in )?(this|next|(\d{1,2})) weeks?(?:'s|’s)?(?: time)?\b/;
const NOON = '12:00';
const HALF_DAY = /\b(?:in the )?(morning|afternoon)s?\b/;

/** What a line such as "next week, 45 min" or "Thursday afternoon, an hour" asks for. */
export interface FreeTimeWish {
  minutes: number;
  within: Stretch;
  /** Of the day; null for all of it. */
  half: 'morning' | 'afternoon' | null;
}

/**
 * Reads when and how long somebody wants to meet. Where nothing is said: half an hour, within ten working days.
 * @param now on the clock of whoever asks
 * @returns null where a day is named that is none
 */
export function readFreeTimeWish(
  typed: string,
  now: DateTime,
  free: FreeDays = MONDAY_TO_FRIDAY,
): FreeTimeWish | null {
  const { minutes, rest } = takeMinutes(typed.trim().toLowerCase().replace(/\s+/g, ' '));
  const half = (HALF_DAY.exec(rest)?.[1] ?? null) as FreeTimeWish['half'];
  const when = rest
    .replace(HALF_DAY, ' ')
    .replace(/\b(?:for|within|sometime|any ?time|free|time)\b/g, ' ')
    .replace(/[,;.]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  const within = (start: DateTime, end: DateTime): FreeTimeWish => ({
    ...{ minutes, half },
    within: { start: DateTime.max(start, now).toISO() ?? '', end: end.toISO() ?? '' },
  });
  if (!when) return within(now, workingDaysOn(now, USUAL_DAYS, free).endOf('day'));
  const week = WEEK.exec(when);
  if (week && week[0] === when) {
    const on = now.plus({ weeks: week[2] ? Number(week[2]) : week[1] === 'next' ? 1 : 0 });
    return within(on.startOf('week'), on.endOf('week'));
  }
  const day = readTypedDay(when, { today: now.toISODate() ?? '', monthFirst: false, free });
  const date = day ? DateTime.fromISO(day, { zone: now.zoneName ?? 'utc' }) : null;
  return date?.isValid ? within(date.startOf('day'), date.endOf('day')) : null;
}

/** A schedule of which only the morning or the afternoon is asked for. */
export const inHalf = (schedule: Schedule, half: FreeTimeWish['half']): Schedule => ({
  ...schedule,
  ...(half === 'morning' && schedule.until > NOON ? { until: NOON } : {}),
  ...(half === 'afternoon' && schedule.from < NOON ? { from: NOON } : {}),
});
