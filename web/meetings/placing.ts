import type { CalendarItem } from '@emporikon/contract/meetings';
import { fromField, toField } from '../shell/moment';
import { addDays } from '../shell/days';

/** A stretch on the clock of whoever looks: of whole days YYYY-MM-DD, the end not included, else YYYY-MM-DDTHH:MM. */
export interface Place {
  start: string;
  end: string;
  allDay: boolean;
}

/** Where an item stands on the page; a whole day is the same date for everybody. */
export function placeOf({ start, end, allDay, zone }: CalendarItem): Place {
  if (!allDay) return { start: toField(start, false), end: toField(end, false), allDay };
  const day = toField(start, true, zone);
  const [after, last] = [addDays(day, 1), toField(end, true, zone)];
  return { start: day, end: last > after ? last : after, allDay };
}

/** What is sent of a task that was put elsewhere. */
export interface Times {
  dueAt: string;
  allDay: boolean;
  endAt?: string | null;
}

export function timesAt(place: Place, zone: string): Times | null {
  const dueAt = fromField(place.start, place.allDay, place.allDay ? zone : undefined);
  if (!dueAt) return null;
  if (place.allDay) {
    const isLonger = place.end > addDays(place.start, 1);
    return { dueAt, allDay: true, endAt: isLonger ? fromField(place.end, true, zone) : null };
  }
  const endAt = fromField(place.end, false);
  return { dueAt, allDay: false, ...(endAt && endAt > dueAt ? { endAt } : {}) };
}

const STEP_MINUTES = 15;
/** A whole day that is given a time begins and takes so much. */
const [FIRST_HOUR, MINUTES] = ['09:00', 60];

/** A moment on the clock so many minutes on; whoever moves over the change of the clocks keeps the hour. */
const shift = (field: string, minutes: number): string =>
  new Date(Date.parse(`${field}:00Z`) + minutes * 60_000).toISOString().slice(0, 16);

const DAYS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };
const STEPS: Record<string, number> = { ArrowUp: -1, ArrowDown: 1 };

/**
 * Where a key puts what is chosen: Alt with an arrow moves it by a day or a quarter of an hour, with Shift as well it lasts
 * longer or shorter.
 * @returns null where the key says nothing
 */
export function movedBy(place: Place, key: { name: string; isLonger: boolean }): Place | null {
  const days = DAYS[key.name];
  const steps = STEPS[key.name];
  if (place.allDay) {
    if (days && key.isLonger) {
      const end = addDays(place.end, days);
      return end > place.start ? { ...place, end } : null;
    }
    if (days) return { ...place, start: addDays(place.start, days), end: addDays(place.end, days) };
    if (steps !== 1 || key.isLonger) return null;
    const start = `${place.start}T${FIRST_HOUR}`;
    return { start, end: shift(start, MINUTES), allDay: false };
  }
  if (key.isLonger) {
    const end = steps ? shift(place.end, steps * STEP_MINUTES) : place.end;
    return end > place.start && end !== place.end ? { ...place, end } : null;
  }
  const minutes = days ? days * 24 * 60 : steps ? steps * STEP_MINUTES : 0;
  return minutes
    ? { start: shift(place.start, minutes), end: shift(place.end, minutes), allDay: false }
    : null;
}

/** The days on which something stands in a list from one day until before another, YYYY-MM-DD; what has a time stands where it begins. */
export function daysOf(place: Place, { from, until }: { from: string; until: string }): string[] {
  const first = place.start.slice(0, 10);
  if (!place.allDay) return [first];
  const days: string[] = [];
  for (let day = first < from ? from : first; day < place.end && day < until; day = addDays(day, 1))
    days.push(day);
  return days;
}
