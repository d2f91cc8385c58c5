import ICAL from 'ical.js';
import { DateTime } from 'luxon';

const DAY_MS = 86_400_000;
const SECOND_MS = 1000;

/** A time on a clock, of whichever zone. */
export const clockTime = (
  parts: Pick<DateTime, 'year' | 'month' | 'day' | 'hour' | 'minute' | 'second'>,
): ICAL.Time => {
  const { year, month, day, hour, minute, second } = parts;
  return new ICAL.Time(
    { year, month, day, hour, minute, second, isDate: false },
    ICAL.Timezone.localTimezone,
  );
};

const offsetAt = (ms: number, zone: string): number => DateTime.fromMillis(ms, { zone }).offset;

/** The moment within a day at which a zone's offset changes. */
function changeWithin(from: number, until: number, zone: string): number {
  const before = offsetAt(from, zone);
  let [low, high] = [from, until];
  while (high - low > SECOND_MS) {
    const middle = Math.floor((low + high) / 2 / SECOND_MS) * SECOND_MS;
    if (middle <= low) break;
    if (offsetAt(middle, zone) === before) low = middle;
    else high = middle;
  }
  return high;
}

function observance(at: number, zone: string, from: number, to: number): ICAL.Component {
  const component = new ICAL.Component(DateTime.fromMillis(at, { zone }).isInDST ? 'daylight' : 'standard');
  // The onset is on the clock that was right until then (RFC 5545, 3.6.5).
  const onset = DateTime.fromMillis(at, { zone: 'utc' }).plus({ minutes: from });
  const put = (name: string, value: unknown): void =>
    void component.addPropertyWithValue(name, value as string);
  put('dtstart', clockTime(onset));
  put('tzoffsetfrom', ICAL.UtcOffset.fromSeconds(from * 60));
  put('tzoffsetto', ICAL.UtcOffset.fromSeconds(to * 60));
  return component;
}

/**
 * A zone as a calendar file has to describe it (RFC 5545, VTIMEZONE), change by change.
 * @param zone IANA name
 * @param fromYear the first year that is described
 * @param untilYear the last
 */
export function describeZone(zone: string, fromYear: number, untilYear: number): ICAL.Component {
  const timezone = new ICAL.Component('vtimezone');
  timezone.addPropertyWithValue('tzid', zone);
  const start = Date.UTC(fromYear, 0, 1);
  timezone.addSubcomponent(observance(start, zone, offsetAt(start, zone), offsetAt(start, zone)));
  for (let at = start; at < Date.UTC(untilYear + 1, 0, 1); at += DAY_MS) {
    const [from, to] = [offsetAt(at, zone), offsetAt(at + DAY_MS, zone)];
    if (from !== to)
      timezone.addSubcomponent(observance(changeWithin(at, at + DAY_MS, zone), zone, from, to));
  }
  return timezone;
}

/** Whether two zones have the same clock in each season of a year. */
const isAlike = (timezone: ICAL.Timezone, zone: string, year: number): boolean =>
  [1, 4, 7, 10].every((month) => {
    const time = clockTime({ year, month, day: 15, hour: 12, minute: 0, second: 0 });
    return (
      timezone.utcOffset(time) ===
      DateTime.fromObject({ year, month, day: 15, hour: 12 }, { zone }).offset * 60
    );
  });

/**
 * The zone of the platform that has the clock of one which only a file describes, under a name of its own.
 * @param preferred tried first, IANA name
 * @returns null where there is none
 */
export function zoneLike(described: ICAL.Component, year: number, preferred: string): string | null {
  const timezone = new ICAL.Timezone(described);
  const zones = [preferred, 'UTC', ...Intl.supportedValuesOf('timeZone')];
  return zones.find((zone) => isAlike(timezone, zone, year)) ?? null;
}
