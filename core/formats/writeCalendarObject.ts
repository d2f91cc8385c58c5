import ICAL from 'ical.js';
import { DateTime, IANAZone } from 'luxon';
import { clockOf, parseCalendar, timeNamed, type EventFacts } from './calendarObject';
import { timeOf } from './icalendar';
import { clockTime, describeZone } from './timezone';

const PRODUCT = '-//Emporikon//Emporikon 1//EN';

function put(component: ICAL.Component, name: string, value: unknown): void {
  component.removeAllProperties(name);
  if (value !== '' && value !== null) component.addPropertyWithValue(name, value as string);
}

/** A time on the clock of a zone, or in UTC where none is given. */
function putTime(component: ICAL.Component, name: string, iso: string, allDay: boolean, zone: string): void {
  component.removeAllProperties(name);
  const property = new ICAL.Property(name);
  if (allDay || zone === 'UTC') property.setValue(timeOf(iso, allDay));
  else {
    property.setParameter('tzid', zone);
    property.setValue(clockTime(DateTime.fromISO(iso, { zone })));
  }
  component.addProperty(property);
}

/** The zone that the times of an event are written in: that of its beginning where the platform knows it. */
function writtenZone(component: ICAL.Component, calendar: ICAL.Component): string {
  const begins = component.getFirstProperty('dtstart');
  const named = begins?.getParameter('tzid');
  const isDescribed = calendar
    .getAllSubcomponents('vtimezone')
    .some((timezone) => timezone.getFirstPropertyValue('tzid') === named);
  return typeof named === 'string' && isDescribed && IANAZone.isValidZone(named) ? named : 'UTC';
}

const same = (a: EventFacts, b: EventFacts, ...keys: (keyof EventFacts)[]): boolean =>
  keys.every((key) => a[key] === b[key]);

/** Writes what is different, and leaves all else as another program wrote it. */
function putFacts(
  component: ICAL.Component,
  calendar: ICAL.Component,
  was: EventFacts,
  facts: EventFacts,
): void {
  if (!same(was, facts, 'title')) put(component, 'summary', facts.title);
  if (!same(was, facts, 'place')) put(component, 'location', facts.place);
  if (!same(was, facts, 'notes')) put(component, 'description', facts.notes);
  if (same(was, facts, 'start', 'end', 'allDay')) return;
  const zone = writtenZone(component, calendar);
  putTime(component, 'dtstart', facts.start, facts.allDay, zone);
  putTime(component, 'dtend', facts.end, facts.allDay, zone);
  component.removeAllProperties('duration');
}

function stampNow(component: ICAL.Component, stamp: string): void {
  const sequence = Number(component.getFirstPropertyValue('sequence') ?? 0);
  put(component, 'sequence', (Number.isFinite(sequence) ? Math.max(0, Math.trunc(sequence)) : 0) + 1);
  put(component, 'dtstamp', timeOf(stamp, false));
  put(component, 'last-modified', timeOf(stamp, false));
}

/** When something is said (ISO 8601), and in which zone whoever keeps the calendar is. */
interface Said {
  stamp: string;
  zone: string;
}

/** An event of ours that another calendar is to have. */
export interface NewEvent {
  uid: string;
  facts: EventFacts;
  /** The value of an RRULE, or null. */
  rule: string | null;
  /** On whose clock it repeats; IANA name. */
  zone: string;
  /** When this is said; ISO 8601. */
  stamp: string;
  /** A link back. */
  url: string;
  isPrivate: boolean;
}

const text = (calendar: ICAL.Component): string => `${calendar.toString()}\r\n`;
const YEARS_DESCRIBED = 6;

/** The file of an event (RFC 4791, 4.1). */
export function newObject(event: NewEvent): string {
  const { uid, facts, rule, zone, stamp, url, isPrivate } = event;
  const calendar = new ICAL.Component('vcalendar');
  calendar.addPropertyWithValue('prodid', PRODUCT);
  calendar.addPropertyWithValue('version', '2.0');
  // A series keeps its hour over a change of the clocks only where it is written on the clock of its zone.
  const clock = rule && !facts.allDay && IANAZone.isValidZone(zone) ? zone : 'UTC';
  if (clock !== 'UTC') {
    const { year } = DateTime.fromISO(facts.start, { zone });
    calendar.addSubcomponent(describeZone(zone, year - 1, year + YEARS_DESCRIBED));
  }
  const component = new ICAL.Component('vevent');
  calendar.addSubcomponent(component);
  put(component, 'uid', uid);
  put(component, 'dtstamp', timeOf(stamp, false));
  putTime(component, 'dtstart', facts.start, facts.allDay, clock);
  putTime(component, 'dtend', facts.end, facts.allDay, clock);
  put(component, 'sequence', 0);
  put(component, 'summary', facts.title);
  put(component, 'location', facts.place);
  put(component, 'description', facts.notes);
  put(component, 'url', url);
  if (rule) put(component, 'rrule', ICAL.Recur.fromString(rule));
  if (isPrivate) put(component, 'class', 'PRIVATE');
  return text(calendar);
}

const find = (calendar: ICAL.Component, at: string, zone: string): ICAL.Component | null =>
  calendar.getAllSubcomponents('vevent').find((event) => {
    const property = event.getFirstProperty('recurrence-id');
    if (!property) return at === '';
    return timeNamed(property.getFirstValue(), clockOf(property, calendar, zone)) === at;
  }) ?? null;

/** An occurrence of a series made an event of its own within its file (RFC 5545, 3.8.4.4). */
function split(calendar: ICAL.Component, at: string, facts: EventFacts): ICAL.Component | null {
  const master = find(calendar, '', 'UTC');
  if (!master) return null;
  const component = new ICAL.Component(ICAL.parse(master.toString()));
  for (const name of ['rrule', 'rdate', 'exdate', 'duration']) component.removeAllProperties(name);
  const isDay = !at.includes('T');
  const zone = writtenZone(master, calendar);
  putTime(component, 'recurrence-id', at, isDay, zone);
  putTime(component, 'dtstart', facts.start, facts.allDay, zone);
  putTime(component, 'dtend', facts.end, facts.allDay, zone);
  calendar.addSubcomponent(component);
  return component;
}

/**
 * A file in which an event, or an occurrence of a series, is what it is to be; all else stays as it is.
 * @param was what the file says of it now
 * @param zone of whoever keeps the calendar
 * @returns null where the file has no such event
 */
export function withFacts(
  raw: string,
  at: string,
  was: EventFacts,
  facts: EventFacts,
  { stamp, zone }: Said,
): string | null {
  const calendar = parseCalendar(raw);
  if (!calendar) return null;
  const component = find(calendar, at, zone) ?? split(calendar, at, was);
  if (!component) return null;
  putFacts(component, calendar, was, facts);
  stampNow(component, stamp);
  return text(calendar);
}

/** A file in which an event repeats by another rule, or does not any longer; what was different at some of its times goes. */
export function withRule(raw: string, rule: string | null, stamp: string): string | null {
  const calendar = parseCalendar(raw);
  const component = calendar && find(calendar, '', 'UTC');
  if (!calendar || !component) return null;
  put(component, 'rrule', rule && ICAL.Recur.fromString(rule));
  component.removeAllProperties('exdate');
  for (const event of calendar.getAllSubcomponents('vevent'))
    if (event.hasProperty('recurrence-id')) calendar.removeSubcomponent(event);
  stampNow(component, stamp);
  return text(calendar);
}

/**
 * A file whose series ends before one of its times; what was before stays.
 * @param at names a time of the series, as `Occurrence.at`
 */
export function withSeriesEnd(raw: string, at: string, { stamp, zone }: Said): string | null {
  const calendar = parseCalendar(raw);
  const master = calendar && find(calendar, '', zone);
  const rule: unknown = master?.getFirstPropertyValue('rrule');
  if (!calendar || !master || !(rule instanceof ICAL.Recur)) return null;
  const isDay = !at.includes('T');
  const last = DateTime.fromISO(at, { zone: 'utc' }).minus(isDay ? { days: 1 } : { seconds: 1 });
  const until = isDay ? last.toFormat('yyyyMMdd') : last.toFormat("yyyyMMdd'T'HHmmss'Z'");
  const endless = rule.toString().replace(/;?(?:COUNT|UNTIL)=[^;]+/gi, '');
  put(master, 'rrule', ICAL.Recur.fromString(`${endless};UNTIL=${until}`));
  for (const event of calendar.getAllSubcomponents('vevent')) {
    const property = event.getFirstProperty('recurrence-id');
    if (property && timeNamed(property.getFirstValue(), clockOf(property, calendar, zone)) >= at)
      calendar.removeSubcomponent(event);
  }
  stampNow(master, stamp);
  return text(calendar);
}

/**
 * A file without one occurrence of its series.
 * @returns null where nothing is left of it
 */
export function withoutOccurrence(raw: string, at: string, { stamp, zone }: Said): string | null {
  const calendar = parseCalendar(raw);
  const master = calendar && find(calendar, '', zone);
  if (!calendar || at === '') return null;
  const moved = find(calendar, at, zone);
  if (moved) calendar.removeSubcomponent(moved);
  if (!master) return calendar.getFirstSubcomponent('vevent') ? text(calendar) : null;
  const left = new ICAL.Property('exdate');
  const clock = writtenZone(master, calendar);
  if (!at.includes('T') || clock === 'UTC') left.setValue(timeOf(at, !at.includes('T')));
  else {
    left.setParameter('tzid', clock);
    left.setValue(clockTime(DateTime.fromISO(at, { zone: clock })));
  }
  master.addProperty(left);
  stampNow(master, stamp);
  return text(calendar);
}
