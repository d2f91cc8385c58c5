import { DateTime, FixedOffsetZone } from 'luxon';
import type { Intent } from '../types';
import { flatten } from './dateWords';
import { findDays, type FoundDay } from './dates';
import { isNotThen } from './notThen';
import type { Sentence } from './sentences';
import { daytimeBehind, timeAlone, timeBefore, timeBehind, type FoundTime } from './times';

/** Sentences in which a lone hour is an appointment and not a habit. */
const INVITES =
  /\?|\b(?:call|ring|phone|meet|see you|come|join|ruf\w*|anruf\w*|appel\w*|lig\w*|llam\w*|bel|chiam\w*)\b/;
const HABIT =
  /\b(?:every|each|daily|always|usually|open|opens|close|closes|taglich|jeden|chaque|tous les|todos os|todos los|cada|elke|ogni)\b/;
const FURTHEST_YEARS = 5;
/** A sentence with more days than this is a calendar. */
const MOST_DAYS = 12;
/** A day in a way of speaking is less surely the one that was meant. */
const IDIOM = 0.82;

/** A point in time as a person said it. `at` carries the offset it was said in; all-day times stand at local midnight. */
export interface Moment {
  at: string;
  allDay: boolean;
  text: string;
  start: number;
  end: number;
  /** Whether a day was named, and not only an hour. */
  dated: boolean;
  /** Whether the day was said in a way of speaking. */
  isIdiom: boolean;
}

export interface Said {
  /** ISO 8601 with offset: the moment and the clock of whoever speaks. */
  reference: string;
  /** IANA name, when the speaker's zone is known and summer time may lie between. */
  zone?: string | undefined;
  /** Whether 12/01 is the first of December, as in the United States. */
  monthFirst?: boolean | undefined;
}

let last: { reference: string; zone: string | undefined; now: DateTime; today: DateTime } | null = null;
/** The sentences of one letter were all said at the same moment: it is read once. */
function momentOf(reference: string, zone: string | undefined): { now: DateTime; today: DateTime } {
  if (last?.reference !== reference || last.zone !== zone) {
    const now = DateTime.fromISO(reference, zone ? { zone } : { setZone: true });
    last = { reference, zone, now, today: now.startOf('day') };
  }
  return last;
}

/** Finds the dates and times in one sentence, in any of our languages, resolved forward from when it was said. */
export function findMoments(text: string, { reference, zone, monthFirst = false }: Said): Moment[] {
  const { now, today } = momentOf(reference, zone);
  if (!now.isValid) return [];
  const flat = flatten(text);
  const named = findDays(flat, today, monthFirst).slice(0, MOST_DAYS);
  const days = named.filter((day) => !isNotThen(flat, named, day, today));
  const moments: Moment[] = [];
  for (const [index, day] of days.entries()) {
    const behind = timeBehind(flat, day.end, day.byWeekday, day.evening);
    const next = days[index + 1];
    const time =
      behind && (!next || behind.end <= next.start) ? behind : timeBefore(flat, day.start, day.evening);
    const free = time && (moments.at(-1)?.end ?? 0) <= time.start ? time : null;
    const moment = joined(text, free ? day : { ...day, end: daytimeBehind(flat, day.end) }, free);
    const at = DateTime.fromISO(moment.at);
    if (at.toMillis() >= today.toMillis() && at.toMillis() <= now.plus({ years: FURTHEST_YEARS }).toMillis())
      moments.push(moment);
  }
  if (moments.length || !INVITES.test(flat) || HABIT.test(flat)) return moments;
  const alone = timeAlone(flat);
  return alone ? [hourOf(text, now, alone)] : [];
}

const iso = (at: DateTime): string => at.toISO({ suppressMilliseconds: true }) ?? '';

/** A time on a day; the zone said with it keeps its clock. */
export const atTime = (day: DateTime, { hour, minute, offset }: FoundTime): DateTime => {
  const at = day.set({ hour, minute });
  return offset === null ? at : at.setZone(FixedOffsetZone.instance(offset), { keepLocalTime: true });
};

function joined(text: string, day: FoundDay, time: FoundTime | null): Moment {
  const start = time ? Math.min(day.start, time.start) : day.start;
  const end = time ? Math.max(day.end, time.end) : day.end;
  return {
    at: iso(time ? atTime(day.day, time) : day.day),
    allDay: !time,
    text: text.slice(start, end),
    start,
    end,
    dated: true,
    isIdiom: day.isIdiom,
  };
}

/** An hour alone is the next such hour. */
function hourOf(text: string, now: DateTime, time: FoundTime): Moment {
  const today = atTime(now.startOf('day'), time);
  const at = today > now ? today : today.plus({ days: 1 });
  return {
    at: iso(at),
    allDay: false,
    text: text.slice(time.start, time.end),
    start: time.start,
    end: time.end,
    dated: false,
    isIdiom: false,
  };
}

/** The dates and times a sentence names, as intents. */
export function readWhen(sentence: Sentence, said: Said): Intent[] {
  return findMoments(sentence.text, said).map((moment) => ({
    kind: 'date',
    text: moment.text,
    value: { at: moment.at, allDay: moment.allDay },
    confidence: moment.dated ? (moment.isIdiom ? IDIOM : 0.9) : 0.6,
    span: { part: 'text', start: sentence.at(moment.start), end: sentence.at(moment.end - 1) + 1 },
  }));
}
