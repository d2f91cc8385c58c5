import { DateTime } from 'luxon';
import { flatten, WEEKDAY } from '../reading/intents/dateWords';
import { findDays, type FoundDay } from '../reading/intents/dates';
import { NUMBER } from '../reading/intents/dayPatterns';
import { readNumber } from '../reading/intents/numbers';
import { timeAlone, timeBefore, timeBehind, type FoundTime } from '../reading/intents/times';
import { atTime } from '../reading/intents/when';
import { alternatives, type Kind } from '../words/compile';

/** When something that is over took place, and where in the text that stands. */
export interface PastMoment {
  /** ISO 8601 with offset. */
  at: string;
  start: number;
  end: number;
}

interface PastDay {
  start: number;
  end: number;
  day: DateTime;
  /** Whether `day` is a time of day too: "an hour ago". */
  isTime?: boolean;
  byWeekday: boolean;
}

const word = (kind: Kind): RegExp => new RegExp(`\\b(?:${alternatives(kind)})\\b`);
const YESTERDAY = word('yesterday');
const DAY_BEFORE = word('dayBeforeYesterday');
const UNITS = ['minutes', 'hours', 'days', 'weeks', 'months'] as const;
const UNIT = UNITS.map((unit) => `(?<${unit}>${alternatives(`unit.${unit}`)})`).join('|');
const COUNT = `(?<n>half an|${NUMBER})\\s(?:${UNIT})`;
const AGO = [
  new RegExp(`\\b${COUNT}\\s(?:${alternatives('ago.behind')})\\b`),
  new RegExp(
    `\\b(?:${alternatives('ago.before')})\\s${COUNT}\\b(?:\\s(?:${alternatives('ago.behind')})\\b)?`,
  ),
];
const A_WEEKDAY = new RegExp(WEEKDAY);
const NAMES_A_YEAR = /\b20\d\d\b|[./]\d\d$/;
/** A day of the calendar without a year is one of the last months, and no anniversary. */
const LONGEST_AGO_DAYS = 300;
const NOON = 12;

function ago(flat: string, now: DateTime): PastDay | null {
  for (const pattern of AGO) {
    const match = pattern.exec(flat);
    const unit = UNITS.find((name) => match?.groups?.[name]);
    if (!match || !unit) continue;
    const written = match.groups?.n ?? '';
    const count = written === 'half an' ? 0.5 : (readNumber(written) ?? 1);
    const isTime = unit === 'minutes' || unit === 'hours';
    const day = isTime ? now.minus({ [unit]: count }) : now.startOf('day').minus({ [unit]: count });
    return { start: match.index, end: match.index + match[0].length, day, isTime, byWeekday: false };
  }
  return null;
}

function yesterday(flat: string, today: DateTime): PastDay | null {
  const [longer, shorter] = [DAY_BEFORE.exec(flat), YESTERDAY.exec(flat)];
  const match = longer ?? shorter;
  if (!match) return null;
  const day = today.minus({ days: longer ? 2 : 1 });
  return { start: match.index, end: match.index + match[0].length, day, byWeekday: true };
}

/** A day that is named as one to come, as the last such day; null for one that only can be to come. */
function lastSuch(flat: string, found: FoundDay, today: DateTime): PastDay | null {
  const text = flat.slice(found.start, found.end);
  if (found.day <= today) return found;
  if (found.byWeekday && !found.isIdiom && A_WEEKDAY.test(text))
    return { ...found, day: found.day.minus({ weeks: Math.ceil(found.day.diff(today, 'weeks').weeks) }) };
  if (found.isIdiom || found.byWeekday || NAMES_A_YEAR.test(text)) return null;
  const day = found.day.minus({ years: 1 });
  return today.diff(day, 'days').days <= LONGEST_AGO_DAYS ? { ...found, day } : null;
}

const asPast = (day: DateTime, span: { start: number; end: number }): PastMoment => ({
  at: day.toISO({ suppressMilliseconds: true }) ?? '',
  start: span.start,
  end: span.end,
});

const beside = (flat: string, day: PastDay): FoundTime | null =>
  timeBehind(flat, day.end, day.byWeekday, false) ?? timeBefore(flat, day.start, false);

/**
 * The time in the past a clause names, in any of our languages: "yesterday at 3", "am Freitag", "il y a deux jours". A weekday
 * is the last one; a day without a time is its noon, and never later than now. An hour from one to six is one of the afternoon,
 * where nothing else is said (common practice).
 * @param now ISO 8601
 * @param zone IANA name of the writer's zone
 */
export function findPast(text: string, now: string, zone: string): PastMoment | null {
  const reference = DateTime.fromISO(now, { zone });
  if (!reference.isValid) return null;
  const flat = flatten(text);
  const today = reference.startOf('day');
  const named = findDays(flat, today, false);
  const day =
    ago(flat, reference) ??
    yesterday(flat, today) ??
    named.map((found) => lastSuch(flat, found, today)).find((found) => found !== null);
  if (!day && named.length) return null;
  if (!day) {
    const alone = timeAlone(flat);
    const at = alone && atTime(today, alone);
    return alone && at && at <= reference ? asPast(at, alone) : null;
  }
  if (day.isTime) return asPast(day.day, day);
  const time = beside(flat, day);
  const span = {
    start: Math.min(day.start, time?.start ?? day.start),
    end: Math.max(day.end, time?.end ?? day.end),
  };
  const at = time ? atTime(day.day, time) : day.day.set({ hour: NOON });
  if (at <= reference) return asPast(at, span);
  if (!time) return asPast(reference, span);
  const before = at.minus({ weeks: 1 });
  return A_WEEKDAY.test(flat.slice(day.start, day.end)) ? asPast(before, span) : null;
}
