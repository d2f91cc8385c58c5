import * as chrono from 'chrono-node';
import { DateTime } from 'luxon';

/** When something that is over took place, and where in the text that stands. */
export interface PastMoment {
  /** ISO 8601 with offset. */
  at: string;
  start: number;
  end: number;
}

const WEEK = { weeks: 1 };

/** The hour that is meant: "at 3" is three in the afternoon, "03:00" and "3 am" are not. */
function officeHour(start: chrono.ParsedComponents, text: string): number {
  const hour = start.get('hour') ?? 12;
  const isOpen = !start.isCertain('meridiem') && hour >= 1 && hour <= LAST_OF_AFTERNOON;
  return isOpen && !/\b0\d[:.h]/.test(text) ? hour + 12 : hour;
}
const LAST_OF_AFTERNOON = 6;

/**
 * The time in the past a clause names: "yesterday at 3", "on Friday", "two days ago". A weekday is the last one; a day
 * without a time is its noon, and never later than now. An hour from one to six is one of the afternoon, where nothing else
 * is said (common practice).
 * @param now ISO 8601
 * @param zone IANA name of the writer's zone
 */
export function findPast(text: string, now: string, zone: string): PastMoment | null {
  const reference = DateTime.fromISO(now, { zone });
  if (!reference.isValid) return null;
  const [found] = chrono.en.GB.parse(
    text,
    { instant: reference.toJSDate(), timezone: reference.offset },
    { forwardDate: false },
  );
  if (!found) return null;
  const { start } = found;
  const names = start.isCertain('day') || start.isCertain('weekday') || start.isCertain('hour');
  if (!names && !start.isCertain('month')) return null;
  // The wall clock is what was written; the zone's own rules make a time of it, over a change of the clocks too.
  let at = DateTime.fromObject(
    {
      year: start.get('year') ?? reference.year,
      month: start.get('month') ?? reference.month,
      day: start.get('day') ?? reference.day,
      hour: start.isCertain('hour') || start.isCertain('minute') ? officeHour(start, found.text) : 12,
      minute: start.isCertain('minute') ? (start.get('minute') ?? 0) : 0,
    },
    { zone },
  );
  if (!at.isValid) return null;
  const isRelative = /\b(?:ago|hours?|minutes?)\b/i.test(found.text);
  if (isRelative && start.isCertain('hour')) at = DateTime.fromJSDate(start.date(), { zone });
  if (at > reference && !start.isCertain('day')) at = start.isCertain('weekday') ? at.minus(WEEK) : at;
  if (at > reference && at.hasSame(reference, 'day') && !start.isCertain('hour')) at = reference;
  if (at > reference) return null;
  return {
    at: at.toISO({ suppressMilliseconds: true }) ?? now,
    start: found.index,
    end: found.index + found.text.length,
  };
}
