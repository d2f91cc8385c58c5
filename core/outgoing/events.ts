import type { CalendarEvent } from '../formats/icalendar';
import type { Field, PlainValue } from '../query/types';

/** A leap year, so that 29 February has a day in it. */
const SOME_YEAR = '2000';

export interface Dated {
  id: string;
  name: string;
  /** What the field of the calendar says of it. */
  value: PlainValue | undefined;
}

/**
 * A record as an event of a calendar: a whole day for a day, a moment for a time, and every year for a day that comes back.
 * @param told.stamp when it is said, ISO 8601; `host` makes its id unique in the world; `url` leads to the record
 * @returns null where the record says no day
 */
export function eventOf(
  { id, name, value }: Dated,
  field: Pick<Field, 'key' | 'label' | 'type'>,
  told: { stamp: string; host: string; url: string },
): CalendarEvent | null {
  if (typeof value !== 'string' || value === '') return null;
  const isYearly = field.type === 'yearly';
  const start = !isYearly ? value : value.length === 10 ? value : `${SOME_YEAR}-${value.slice(-5)}`;
  return {
    uid: `${field.key}.${id}@${told.host}`,
    sequence: 0,
    stamp: told.stamp,
    title: `${name} (${field.label.toLowerCase()})`,
    start: field.type === 'time' ? start : start.slice(0, 10),
    end: '',
    allDay: field.type !== 'time',
    ...(isYearly ? { isYearly } : {}),
    place: '',
    notes: '',
    url: told.url,
    organizer: null,
    attendees: [],
    isCancelled: false,
    comment: '',
  };
}
