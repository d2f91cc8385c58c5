import ICAL from 'ical.js';
import { DateTime, IANAZone } from 'luxon';
import { isTaskRule, occurrencesWithin } from '../calendar/recurrence';
import { readEvent, type CalendarPerson } from './icalendar';
import { zoneLike } from './timezone';

/** What of an event both calendars keep. Times are ISO 8601 in UTC; of whole days YYYY-MM-DD, the end not included. */
export interface EventFacts {
  title: string;
  start: string;
  end: string;
  allDay: boolean;
  place: string;
  notes: string;
}

export interface Occurrence {
  /** When its series has it, which names it (RFC 5545, RECURRENCE-ID); empty for an event that does not repeat. */
  at: string;
  facts: EventFacts;
  organizer: { email: string; name: string } | null;
  attendees: CalendarPerson[];
  isCancelled: boolean;
  /** Only for whoever keeps the calendar (CLASS). */
  isPrivate: boolean;
}

/** An event with all that is said of it: the file that a calendar server keeps for it (RFC 4791, 4.1). */
export interface CalendarObject {
  uid: string;
  /** The value of its RRULE; null where it does not repeat by one. */
  rule: string | null;
  /** Whether its rule is one that cannot be followed; its first and what was moved by hand are known all the same. */
  isBeyond: boolean;
  /** As its first says it. */
  first: Occurrence;
  occurrences: Occurrence[];
  /** Those that were moved, changed or called off by hand, whenever they are. */
  byHand: Occurrence[];
  /** Times of its rule that are left out. */
  leftOut: string[];
  /** On whose clock it repeats; IANA name. */
  clock: string;
}

/** From when until when the occurrences of a series are wanted; ISO 8601. */
export interface Span {
  from: string;
  until: string;
}

const LONGEST = 512 * 1024;
const MOST_OCCURRENCES = 400;
const MOST_EXCEPTIONS = 2000;
const LONGEST_TITLE = 300;
const LONGEST_NOTES = 5000;

/** The parts of a rule in the order in which they are compared. */
const ORDER = ['FREQ', 'INTERVAL', 'BYMONTH', 'BYMONTHDAY', 'BYDAY', 'BYSETPOS', 'COUNT', 'UNTIL', 'WKST'];
function ruleOf(component: ICAL.Component): string | null {
  const value: unknown = component.getFirstPropertyValue('rrule');
  if (!(value instanceof ICAL.Recur)) return null;
  const parts = value.toString().toUpperCase().split(';');
  const place = (part: string): number => {
    const at = ORDER.indexOf(part.split('=')[0] ?? '');
    return at < 0 ? ORDER.length : at;
  };
  return parts.sort((a, b) => place(a) - place(b)).join(';');
}

/** A calendar file as its parts; null where it is none. */
export const parseCalendar = (raw: string): ICAL.Component | null => {
  if (raw.length > LONGEST) return null;
  try {
    const calendar = new ICAL.Component(ICAL.parse(raw));
    return calendar.name === 'vcalendar' ? calendar : null;
  } catch {
    return null;
  }
};

/** The zone whose clock a time of a file is on: one the platform knows, or one with the clock that the file describes. */
export function clockOf(property: ICAL.Property, calendar: ICAL.Component, otherwise: string): string {
  const value: unknown = property.getFirstValue();
  if (value instanceof ICAL.Time && value.zone === ICAL.Timezone.utcTimezone) return 'UTC';
  const named = property.getParameter('tzid');
  if (typeof named !== 'string') return otherwise;
  if (IANAZone.isValidZone(named)) return named;
  const described = calendar
    .getAllSubcomponents('vtimezone')
    .find((timezone) => timezone.getFirstPropertyValue('tzid') === named);
  const year = value instanceof ICAL.Time ? value.year : 2026;
  return (described && zoneLike(described, year, otherwise)) ?? otherwise;
}

/** A time of a file, ISO 8601 in UTC, or a day. */
export function timeNamed(value: unknown, zone: string): string {
  if (!(value instanceof ICAL.Time)) return '';
  if (value.isDate) return value.toString();
  const { year, month, day, hour, minute, second } = value;
  const at = DateTime.fromObject({ year, month, day, hour, minute, second }, { zone });
  return at.isValid ? at.toUTC().toISO() : '';
}

/** All the times that properties of a name hold, as they name occurrences. */
const timesOf = (component: ICAL.Component, name: string, calendar: ICAL.Component, zone: string): string[] =>
  component
    .getAllProperties(name)
    .flatMap((property) =>
      property.getValues().map((value: unknown) => {
        const begins = value instanceof ICAL.Period ? value.start : value;
        return timeNamed(begins, clockOf(property, calendar, zone));
      }),
    )
    .filter(Boolean)
    .slice(0, MOST_EXCEPTIONS);

const CONTROL = /(?![\n\t])\p{Cc}/gu;
const plainLine = (text: string): string =>
  text.replace(CONTROL, '').replace(/\s+/g, ' ').trim().slice(0, LONGEST_TITLE).trim();

function occurrenceOf(component: ICAL.Component, at: string, zone: string): Occurrence | null {
  const event = readEvent(component, zone);
  if (!event?.start) return null;
  const class_ = String(component.getFirstPropertyValue('class') ?? 'PUBLIC').toUpperCase();
  return {
    at,
    facts: {
      title: plainLine(event.title) || 'Untitled',
      ...{ start: event.start, end: event.end, allDay: event.allDay },
      place: plainLine(event.place),
      notes: event.notes.replace(CONTROL, '').trim().slice(0, LONGEST_NOTES),
    },
    organizer: event.organizer,
    attendees: event.attendees.filter(({ email }) => email.includes('@')),
    isCancelled: event.isCancelled,
    isPrivate: class_ !== 'PUBLIC',
  };
}

/** The same event at another time of its series. */
function shifted(first: Occurrence, at: string, zone: string): Occurrence {
  const { start, end, allDay } = first.facts;
  const in_ = { zone: allDay ? 'utc' : zone };
  const lasts = DateTime.fromISO(end, in_).diff(DateTime.fromISO(start, in_));
  const ends = DateTime.fromISO(at, in_).plus(lasts);
  const isoEnd = allDay ? ends.toISODate() : ends.toUTC().toISO();
  return { ...first, at, facts: { ...first.facts, start: at, end: isoEnd ?? at } };
}

/** When a series has its occurrences, before those that are left out or moved by hand. */
function startsOf(first: Occurrence, rule: string, zone: string, span: Span): string[] {
  const { start, allDay } = first.facts;
  const clock = allDay ? 'utc' : zone;
  const begins = DateTime.fromISO(start, { zone: clock });
  const found = occurrencesWithin(
    { rule, start: begins.toFormat("yyyy-MM-dd'T'HH:mm:ss"), zone: clock },
    DateTime.fromISO(span.from),
    DateTime.fromISO(span.until),
    MOST_OCCURRENCES,
  );
  return found.map((at) => (allDay ? at.toISODate() : at.toUTC().toISO()) ?? '');
}

const isWithin = (at: string, { from, until }: Span): boolean => {
  const ms = Date.parse(at);
  return ms >= Date.parse(from) && ms < Date.parse(until);
};

/**
 * What a file of a calendar server says. Never throws.
 * @param zone of whoever reads it, for times that name none; IANA name
 * @param span occurrences of a series are given for
 * @returns null where it holds no event, or is larger than anybody's
 */
export function readObject(raw: string, zone: string, span: Span): CalendarObject | null {
  const calendar = parseCalendar(raw);
  const events = calendar?.getAllSubcomponents('vevent') ?? [];
  const [master] = [...events.filter((event) => !event.hasProperty('recurrence-id')), ...events];
  const begins = master?.getFirstProperty('dtstart');
  const uid = master?.getFirstPropertyValue('uid');
  const first = master && occurrenceOf(master, '', zone);
  if (!calendar || !master || !begins || !first || typeof uid !== 'string' || !uid) return null;
  const clock = clockOf(begins, calendar, zone);
  const rule = ruleOf(master);
  const isBeyond = rule !== null && !isTaskRule(rule);
  const moved = new Map<string, ICAL.Component>();
  for (const event of events.slice(0, MOST_EXCEPTIONS)) {
    const property = event.getFirstProperty('recurrence-id');
    if (property) moved.set(timeNamed(property.getFirstValue(), clockOf(property, calendar, clock)), event);
  }
  const further = timesOf(master, 'rdate', calendar, clock);
  const left = new Set(timesOf(master, 'exdate', calendar, clock));
  const whole = { uid, rule, isBeyond, first, leftOut: [...left], clock };
  if (!rule && !further.length && !moved.size) return { ...whole, occurrences: [first], byHand: [] };
  const isOnlyMoved = master.hasProperty('recurrence-id');
  const starts = new Set(isOnlyMoved ? [] : [first.facts.start, ...further]);
  if (rule && !isBeyond) for (const at of startsOf(first, rule, clock, span)) starts.add(at);
  const plain = [...starts]
    .filter((at) => !left.has(at) && !moved.has(at) && isWithin(at, span))
    .map((at) => shifted(first, at, clock));
  const byHand = [...moved].flatMap(([at, event]) => occurrenceOf(event, at, zone) ?? []);
  const occurrences = [...plain, ...byHand.filter(({ facts }) => isWithin(facts.start, span))]
    .sort((a, b) => a.at.localeCompare(b.at))
    .slice(0, MOST_OCCURRENCES);
  return { ...whole, occurrences, byHand };
}

/** What a file says of one time of its series; null where it does not take place then. */
export function occurrenceOn(
  { first, byHand, leftOut, clock }: CalendarObject,
  at: string,
): Occurrence | null {
  const changed = byHand.find((occurrence) => occurrence.at === at);
  if (changed) return changed.isCancelled ? null : changed;
  return leftOut.includes(at) ? null : shifted(first, at, clock);
}
