import { DateTime } from 'luxon';
import * as rrule from 'rrule';

/** Node takes the package as CommonJS, whose exports stand in `default`; bundlers take its ES module. */
const { RRule } = 'RRule' in rrule ? rrule : (rrule as { default: typeof rrule }).default;

/** A rule of RFC 5545 (§3.3.10) with what it begins with and what is left out. */
export interface Recurrence {
  /** The value of an RRULE: "FREQ=MONTHLY;BYDAY=1MO". */
  rule: string;
  /** The first occurrence, on the clock of `zone`: 2026-12-07T09:00. */
  start: string;
  /** IANA name. */
  zone: string;
  /** Occurrences that do not take place, on the clock of `zone`. */
  except?: readonly string[];
}

/** The wall clock as if it were UTC, which is how rrule counts without zones. */
const asWallClock = (at: DateTime): Date =>
  new Date(Date.UTC(at.year, at.month - 1, at.day, at.hour, at.minute, at.second));

/** A time on the clock of a zone; one that a change of the clocks leaves out comes by so much later (RFC 5545, 3.3.5). */
const fromWallClock = (wall: Date, zone: string): DateTime =>
  DateTime.fromObject(
    {
      year: wall.getUTCFullYear(),
      month: wall.getUTCMonth() + 1,
      day: wall.getUTCDate(),
      hour: wall.getUTCHours(),
      minute: wall.getUTCMinutes(),
      second: wall.getUTCSeconds(),
    },
    { zone },
  );

const UNTIL = /UNTIL=(\d{8}T\d{6}Z)/i;

function parse({ rule, start, zone }: Recurrence): InstanceType<typeof RRule> {
  const begins = DateTime.fromISO(start, { zone });
  // An end in UTC is one moment (RFC 5545, 3.3.10), and is compared on the same clock as the occurrences.
  const inZone = rule.replace(UNTIL, (_, utc: string) => {
    const local = DateTime.fromFormat(utc, "yyyyMMdd'T'HHmmss'Z'", { zone: 'utc' }).setZone(zone);
    return `UNTIL=${local.toFormat("yyyyMMdd'T'HHmmss")}Z`;
  });
  const options = RRule.parseString(inZone);
  return new RRule({ ...options, dtstart: asWallClock(begins) });
}

const END = '(?:;(?:COUNT|UNTIL|WKST)=[A-Z0-9]+)*';
/**
 * The rules a task may repeat by: of days and longer. rrule looks for what never comes until the year 9999, day by day in
 * many seconds; so days and weeks take no parts that could exclude each other.
 */
const OF_TASKS = [
  new RegExp(`^FREQ=(?:DAILY|WEEKLY)(?:;INTERVAL=\\d+)?${END}$`),
  new RegExp(`^FREQ=DAILY(?:;BY(?:DAY|MONTH)=[A-Z0-9,]+){1,2}${END}$`),
  new RegExp(`^FREQ=WEEKLY(?:;INTERVAL=\\d+)?${END}(?:;BYDAY=[A-Z,]+)?${END}$`),
  /^FREQ=(?:MONTHLY|YEARLY)(?:;(?:INTERVAL|COUNT|UNTIL|BY(?:DAY|MONTH|MONTHDAY|YEARDAY|WEEKNO|SETPOS)|WKST)=[A-Z0-9,+-]+)*$/,
];
const LONGEST_RULE = 300;
const MOST_INTERVAL = 999;

/** Whether a text is a rule that a task may repeat by, and that comes to pass at all. */
export function isTaskRule(rule: string): boolean {
  if (rule.length > LONGEST_RULE || !OF_TASKS.some((pattern) => pattern.test(rule))) return false;
  const interval = Number(/INTERVAL=(\d+)/.exec(rule)?.[1] ?? 1);
  const count = Number(/COUNT=(\d+)/.exec(rule)?.[1] ?? 1);
  if (interval < 1 || interval > MOST_INTERVAL || count < 1) return false;
  if (/COUNT=/.test(rule) && /UNTIL=/.test(rule)) return false;
  const endless = rule.replace(/;(?:COUNT|UNTIL|INTERVAL)=\w+/g, '');
  try {
    return occurrences({ rule: endless, start: '2026-01-01T00:00', zone: 'utc' }, 1).length > 0;
  } catch {
    return false;
  }
}

/**
 * The occurrences of a recurrence, in order.
 * @param limit the most that are given
 * @throws where the rule is none
 */
export function occurrences(recurrence: Recurrence, limit: number): DateTime[] {
  const { zone, except = [] } = recurrence;
  const rule = parse(recurrence);
  const left = new Set(except.map((at) => asWallClock(DateTime.fromISO(at, { zone })).getTime()));
  const found: Date[] = [];
  rule.all((wall) => {
    if (!left.has(wall.getTime())) found.push(wall);
    return found.length < limit;
  });
  return found.map((wall) => fromWallClock(wall, zone));
}

/** The occurrences from one moment to before another, in order, at most so many. */
export function occurrencesWithin(
  recurrence: Recurrence,
  from: DateTime,
  until: DateTime,
  limit: number,
): DateTime[] {
  const { zone } = recurrence;
  const walls = parse(recurrence).between(
    asWallClock(from.setZone(zone)),
    asWallClock(until.setZone(zone)),
    true,
    (_, count) => count < limit,
  );
  return walls.map((wall) => fromWallClock(wall, zone)).filter((at) => at >= from && at < until);
}

/** The same rule for a series that begins with a later of its occurrences: fewer are left of those that are counted. */
export function ruleFrom(recurrence: Recurrence, begins: DateTime): string {
  const { rule } = recurrence;
  const count = Number(/COUNT=(\d+)/.exec(rule)?.[1] ?? 0);
  if (!count) return rule;
  const over = occurrences(recurrence, count).filter((at) => at < begins).length;
  return rule.replace(/COUNT=\d+/, `COUNT=${Math.max(1, count - over)}`);
}

/** The first occurrence after a moment; null where none follows. */
export function occurrenceAfter(recurrence: Recurrence, after: DateTime): DateTime | null {
  const { zone } = recurrence;
  const next = parse(recurrence).after(asWallClock(after.setZone(zone)));
  return next ? fromWallClock(next, zone) : null;
}
