import ICAL from 'ical.js';
import { DateTime, IANAZone } from 'luxon';

/** What somebody who is asked to come says. */
export type Answer = 'waiting' | 'accepted' | 'tentative' | 'declined';

export interface CalendarPerson {
  email: string;
  name: string;
  answer: Answer;
}

/** An event of a calendar (RFC 5545, VEVENT). Times are ISO 8601; of whole days YYYY-MM-DD, the end not included. */
export interface CalendarEvent {
  uid: string;
  sequence: number;
  /** When this was said of it. */
  stamp: string;
  title: string;
  start: string;
  /** Empty for a moment, or for the one day it begins on. */
  end: string;
  allDay: boolean;
  /** Whether it comes back every year. */
  isYearly?: boolean;
  place: string;
  notes: string;
  /** A link to it; empty where there is none. */
  url: string;
  organizer: { email: string; name: string } | null;
  attendees: CalendarPerson[];
  isCancelled: boolean;
  /** What somebody adds to their answer. */
  comment: string;
}

export type Method = 'PUBLISH' | 'REQUEST' | 'CANCEL' | 'REPLY' | 'COUNTER';

// A folded line begins with a space, which counts (RFC 5545, 3.1: at most 75 octets).
ICAL.foldLength = 74;

const PRODUCT = '-//Emporikon//Emporikon 1//EN';
const PARTSTAT: Record<Answer, string> = {
  waiting: 'NEEDS-ACTION',
  accepted: 'ACCEPTED',
  tentative: 'TENTATIVE',
  declined: 'DECLINED',
};
const ANSWERS = new Map(Object.entries(PARTSTAT).map(([answer, word]) => [word, answer as Answer]));

/** A name may hold no quotes and no control characters (RFC 5545, 3.2). */
const asName = (name: string): string =>
  name
    .replace(/["\p{Cc}]/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();

function person(kind: 'organizer' | 'attendee', { email, name }: { email: string; name: string }) {
  const property = new ICAL.Property(kind);
  if (asName(name)) property.setParameter('cn', asName(name));
  property.setValue(`mailto:${email}`);
  return property;
}

/** In UTC, so that no zone has to be described. */
export const timeOf = (iso: string, allDay: boolean): ICAL.Time =>
  allDay ? ICAL.Time.fromDateString(iso) : ICAL.Time.fromJSDate(new Date(iso), true);

function writeEvent(event: CalendarEvent, method: Method): ICAL.Component {
  const component = new ICAL.Component('vevent');
  const put = (name: string, value: unknown): void => {
    if (value !== '') component.addPropertyWithValue(name, value as string);
  };
  put('uid', event.uid);
  put('dtstamp', timeOf(event.stamp, false));
  put('dtstart', timeOf(event.start, event.allDay));
  if (event.end) put('dtend', timeOf(event.end, event.allDay));
  if (event.isYearly) put('rrule', ICAL.Recur.fromString('FREQ=YEARLY'));
  put('sequence', event.sequence);
  put('summary', event.title);
  put('location', event.place);
  put('description', event.notes);
  put('url', event.url);
  put('comment', event.comment);
  put('status', event.isCancelled ? 'CANCELLED' : 'CONFIRMED');
  if (event.organizer) component.addProperty(person('organizer', event.organizer));
  for (const attendee of event.attendees) {
    const property = person('attendee', attendee);
    property.setParameter('partstat', PARTSTAT[attendee.answer]);
    if (method === 'REQUEST') {
      property.setParameter('role', 'REQ-PARTICIPANT');
      property.setParameter('rsvp', 'TRUE');
    }
    component.addProperty(property);
  }
  return component;
}

/**
 * A calendar file of some events (RFC 5545; RFC 5546 for what is sent to people).
 * @param name by which programs that subscribe to it call it
 */
export function writeCalendar(events: readonly CalendarEvent[], method: Method, name = ''): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', PRODUCT);
  calendar.addPropertyWithValue('version', '2.0');
  calendar.addPropertyWithValue('method', method);
  if (name) calendar.addPropertyWithValue('x-wr-calname', name);
  for (const event of events) calendar.addSubcomponent(writeEvent(event, method));
  return `${calendar.toString()}\r\n`;
}

/** One event as it stands in a calendar file, and what stands before and after all of them. */
export const writeOneEvent = (event: CalendarEvent): string =>
  `${writeEvent(event, 'PUBLISH').toString()}\r\n`;
export function calendarFrame(name: string): { head: string; tail: string } {
  const tail = 'END:VCALENDAR\r\n';
  const whole = writeCalendar([], 'PUBLISH', name);
  return { head: whole.slice(0, -tail.length), tail };
}

/** Nobody's invitation is larger, and what is would take long to read. */
const LONGEST = 512 * 1024;
const MOST_EVENTS = 2000;
const LONGEST_TEXT = 20_000;

const text = (component: ICAL.Component, name: string): string => {
  const value: unknown = component.getFirstPropertyValue(name);
  return typeof value === 'string' ? value.slice(0, LONGEST_TEXT) : '';
};

const address = (property: ICAL.Property): string =>
  String(property.getFirstValue() ?? '')
    .replace(/^mailto:/i, '')
    .trim()
    .toLowerCase();
const parameter = (property: ICAL.Property, name: string): string => {
  const value: unknown = property.getParameter(name);
  return typeof value === 'string' ? value : '';
};
const nameOf = (property: ICAL.Property): string => parameter(property, 'cn');

/** A time with the zone it is in: UTC, one the platform knows, one that the file describes, or else that of the reader. */
function momentOf(
  component: ICAL.Component,
  name: string,
  zone: string,
): { iso: string; allDay: boolean } | null {
  const property = component.getFirstProperty(name);
  const value: unknown = property?.getFirstValue();
  if (!property || !(value instanceof ICAL.Time)) return null;
  if (value.isDate) return { iso: value.toString(), allDay: true };
  const named = parameter(property, 'tzid');
  const described = component.parent
    ?.getAllSubcomponents('vtimezone')
    .find((timezone) => timezone.getFirstPropertyValue('tzid') === named);
  if (value.zone === ICAL.Timezone.utcTimezone) return { iso: value.toJSDate().toISOString(), allDay: false };
  if (described && !IANAZone.isValidZone(named)) {
    const { year, month, day, hour, minute, second } = value;
    const at = new ICAL.Time(
      { year, month, day, hour, minute, second, isDate: false },
      new ICAL.Timezone(described),
    );
    return { iso: new Date(at.toUnixTime() * 1000).toISOString(), allDay: false };
  }
  const { year, month, day, hour, minute, second } = value;
  const at = DateTime.fromObject(
    { year, month, day, hour, minute, second },
    { zone: IANAZone.isValidZone(named) ? named : zone },
  );
  return at.isValid ? { iso: at.toUTC().toISO(), allDay: false } : null;
}

/** Where an event ends: as it says, after its duration, or, of neither, after nothing or a day (RFC 5545, 3.6.1). */
function endOf(component: ICAL.Component, start: { iso: string; allDay: boolean }, zone: string): string {
  const end = momentOf(component, 'dtend', zone);
  if (end && end.allDay === start.allDay && end.iso > start.iso) return end.iso;
  const duration: unknown = component.getFirstPropertyValue('duration');
  const seconds = duration instanceof ICAL.Duration ? Math.max(0, duration.toSeconds()) : 0;
  const from = DateTime.fromISO(start.iso, { zone: 'utc' });
  if (start.allDay)
    return from.plus({ days: Math.max(1, Math.round(seconds / 86_400)) }).toISODate() ?? start.iso;
  return from.plus({ seconds }).toISO() ?? start.iso;
}

/** An event of a file; null where it has no name. */
export function readEvent(component: ICAL.Component, zone: string): CalendarEvent | null {
  const uid = text(component, 'uid');
  if (!uid) return null;
  const start = momentOf(component, 'dtstart', zone);
  const organizer = component.getFirstProperty('organizer');
  return {
    uid,
    sequence: Math.max(0, Math.trunc(Number(component.getFirstPropertyValue('sequence') ?? 0))) || 0,
    stamp: momentOf(component, 'dtstamp', zone)?.iso ?? '',
    title: text(component, 'summary'),
    start: start?.iso ?? '',
    end: start ? endOf(component, start, zone) : '',
    allDay: start?.allDay ?? false,
    place: text(component, 'location'),
    notes: text(component, 'description'),
    url: text(component, 'url'),
    organizer: organizer ? { email: address(organizer), name: nameOf(organizer) } : null,
    attendees: component.getAllProperties('attendee').map((property) => ({
      email: address(property),
      name: nameOf(property),
      answer: ANSWERS.get(parameter(property, 'partstat').toUpperCase()) ?? 'waiting',
    })),
    isCancelled: text(component, 'status').toUpperCase() === 'CANCELLED',
    comment: text(component, 'comment'),
  };
}

/**
 * The events of a calendar file. Never throws.
 * @param zone of whoever reads it, for times that name none; IANA name
 * @returns null where it is none, or larger than anybody's
 */
export function readCalendar(file: string, zone = 'UTC'): { method: string; events: CalendarEvent[] } | null {
  if (file.length > LONGEST) return null;
  try {
    const calendar = new ICAL.Component(ICAL.parse(file));
    if (calendar.name !== 'vcalendar') return null;
    const events = calendar.getAllSubcomponents('vevent').slice(0, MOST_EVENTS);
    return {
      method: text(calendar, 'method').toUpperCase(),
      events: events.flatMap((component) => readEvent(component, zone) ?? []),
    };
  } catch {
    return null;
  }
}
