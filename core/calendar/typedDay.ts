import { DateTime } from 'luxon';
import { lastWorkingDayOf, workingDaysOn, type FreeDays } from './workingDays';
import { flatten } from '../reading/intents/dateWords';
import { findDays } from '../reading/intents/dates';
import { FIRST_DAY, LAST_DAY, readDay } from '../reading/table/days';

const WORKING_DAYS = /^(?:in )?\+?(\d{1,3}) (?:working|business) days?$/;
const PLUS_DAYS = /^\+(\d{1,3})(?: days?)?$/;
const END_OF = /^(?:the )?end of (?:the |this )?(next )?(week|month|quarter|year)$/;
const WITHOUT_YEAR = /^(\d{1,2})[./-](\d{1,2})[./-]?$/;

interface Reading {
  /** The day it is now for whoever types (YYYY-MM-DD). */
  today: string;
  /** Whether 12/01 is the first of December, as in the United States. */
  monthFirst: boolean;
  /** Days on which the reader does not work; weekends, where left out. */
  free?: FreeDays | undefined;
}

/**
 * The day somebody typed into a field: "2026-12-03", "3/12", "3 dec", "fri", "in 3 working days", "end of month", "+2".
 * @returns the day (YYYY-MM-DD), or null when the text names none, or says more than a day
 */
export function readTypedDay(text: string, { today, monthFirst, free }: Reading): string | null {
  const typed = text.trim().toLowerCase().replace(/\s+/g, ' ');
  const now = DateTime.fromISO(today, { zone: 'utc' });
  const working = WORKING_DAYS.exec(typed);
  if (working) return inRange(workingDaysOn(now, Number(working[1]), free));
  const end = END_OF.exec(typed.replace(/^end of month$/, 'end of the month'));
  if (end) return inRange(endOf(now, end[2] as Unit, end[1] !== undefined, free));
  const plus = PLUS_DAYS.exec(typed);
  if (plus) return inRange(now.plus({ days: Number(plus[1]) }));
  const full = readDay(typed, monthFirst ? 'month first' : 'day first');
  if (full) return full;
  const short = WITHOUT_YEAR.exec(typed);
  if (short) return nextOf(now, short, monthFirst);
  const flat = flatten(typed);
  // A weekday cut short is read only behind a word that says it is one.
  return onlyDayIn(flat, now, monthFirst) ?? onlyDayIn(`on ${flat}`, now, monthFirst);
}

type Unit = 'week' | 'month' | 'quarter' | 'year';
/** The last working day of this or the next week, month, quarter or year; once that is over, of the one after. */
function endOf(now: DateTime, unit: Unit, isNext: boolean, free: FreeDays | undefined): DateTime {
  const end = lastWorkingDayOf(isNext ? now.plus({ [unit]: 1 }) : now, unit, free);
  return end < now.startOf('day') ? lastWorkingDayOf(now.plus({ [unit]: 1 }), unit, free) : end;
}

/** The day a text names, when it says nothing else. */
function onlyDayIn(flat: string, now: DateTime, monthFirst: boolean): string | null {
  const [found, ...more] = findDays(flat, now, monthFirst);
  if (!found || more.length || /[^\s.,]/.test(flat.slice(found.end))) return null;
  if (/[^\s.,]/.test(flat.slice(0, found.start).replace(/^(?:(?:on|by|next|this|the)\s+)+/, ''))) return null;
  return inRange(found.day);
}

function inRange(day: DateTime): string | null {
  const iso = day.toISODate() ?? '';
  return iso >= FIRST_DAY && iso <= LAST_DAY ? iso : null;
}

/** The next day with this day of the month and month, from today on. */
function nextOf(now: DateTime, parts: RegExpExecArray, monthFirst: boolean): string | null {
  const [a, b] = [Number(parts[1]), Number(parts[2])];
  const [month, day] = monthFirst ? [a, b] : [b, a];
  for (let year = now.year; year < now.year + 9; year++) {
    const at = DateTime.utc(year, month, day);
    if (at.isValid && at >= now.startOf('day')) return inRange(at);
  }
  return null;
}
