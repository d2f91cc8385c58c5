import { DateTime } from 'luxon';
import { workingHoursOn } from './workingHours';

const on = (iso: string, hours: number, zone = 'Europe/Lisbon'): string =>
  workingHoursOn(DateTime.fromISO(iso, { zone }), hours).toUTC().toISO({
    suppressMilliseconds: true,
    suppressSeconds: true,
  }) ?? '';

// Worked by hand on the calendar of November 2026: the 27th is a Friday.
it.each([
  ['2026-11-26T10:00', 2, '2026-11-26T12:00Z'],
  ['2026-11-26T16:00', 2, '2026-11-27T10:00Z'],
  ['2026-11-27T16:30', 1, '2026-11-30T09:30Z'],
  ['2026-11-28T11:00', 8, '2026-11-30T17:00Z'],
  ['2026-11-26T05:00', 1, '2026-11-26T10:00Z'],
  ['2026-11-26T23:00', 1, '2026-11-27T10:00Z'],
  ['2026-11-26T09:00', 40, '2026-12-02T17:00Z'],
])('from %s so many as %s hours of work end %s', (from, hours, until) => expect(on(from, hours)).toBe(until));

it('free days are left out', () =>
  expect(
    workingHoursOn(DateTime.fromISO('2026-12-24T15:00', { zone: 'Europe/Lisbon' }), 4, undefined, {
      weekend: [6, 7],
      closed: new Map([['2026-12-25', 'Christmas Day']]),
    }).toISODate(),
  ).toBe('2026-12-28'));

it('hours are those of the clock, also when it changes', () =>
  // In London the clocks went back on Sunday 25 October 2026.
  expect(on('2026-10-23T16:00', 2, 'Europe/London')).toBe('2026-10-26T10:00Z'));

it('whoever works no hours at all is not waited for for ever', () =>
  expect(
    workingHoursOn(DateTime.fromISO('2026-11-26T10:00'), 2, { from: '09:00', until: '09:00' }).isValid,
  ).toBe(true));
