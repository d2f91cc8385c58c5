import { daysOf, startOfDay, startOfUnit, yearlyRanges } from './time';
import type { When } from './types';

/** A Tuesday. */
const TODAY = '2026-11-24';

// Sources: ISO 8601 (weeks begin on Monday); a printed calendar of 2026 and 2028.
it.each<[When, string, string, string?]>([
  [{ day: '2026-06-01' }, '2026-06-01', '2026-06-02'],
  [{ day: '2028-02-28' }, '2028-02-28', '2028-02-29'],
  [{ unit: 'week', shift: 0 }, '2026-11-23', '2026-11-30'],
  [{ unit: 'week', shift: -1 }, '2026-11-16', '2026-11-23'],
  [{ unit: 'month', shift: 0 }, '2026-11-01', '2026-12-01'],
  [{ unit: 'month', shift: 2 }, '2027-01-01', '2027-02-01'],
  [{ unit: 'quarter', shift: 0 }, '2026-10-01', '2027-01-01'],
  [{ unit: 'quarter', shift: -1 }, '2026-07-01', '2026-10-01'],
  [{ unit: 'year', shift: -1 }, '2025-01-01', '2026-01-01'],
  [{ unit: 'month', day: '2026-06-17' }, '2026-06-01', '2026-07-01'],
  [{ unit: 'year', day: '2028-02-29' }, '2028-01-01', '2029-01-01'],
  [{ away: 0, unit: 'day' }, '2026-11-24', '2026-11-25'],
  [{ away: -30, unit: 'day' }, '2026-10-25', '2026-10-26'],
  [{ away: -2, unit: 'week' }, '2026-11-10', '2026-11-11'],
  // The last of a month stays within the shorter one.
  [{ away: -1, unit: 'month' }, '2026-02-28', '2026-03-01', '2026-03-31'],
  [{ unit: 'month', shift: -1 }, '2026-02-01', '2026-03-01', '2026-03-31'],
  [{ unit: 'week', shift: 0 }, '2026-12-28', '2027-01-04', '2027-01-01'],
])('%j is from %s to before %s', (when, from, to, today = TODAY) =>
  expect(daysOf(when, today)).toEqual({ from, to }),
);

// Source: the time zone database; Lisbon puts its clocks on at 01:00 UTC on 29 March 2026.
it.each([
  ['2026-03-29', 'Europe/Lisbon', '2026-03-29T00:00:00.000Z'],
  ['2026-03-30', 'Europe/Lisbon', '2026-03-29T23:00:00.000Z'],
  ['2026-11-24', 'America/New_York', '2026-11-24T05:00:00.000Z'],
  ['2026-11-24', 'UTC+9', '2026-11-23T15:00:00.000Z'],
])('%s begins in %s at %s', (day, zone, instant) => expect(startOfDay(day, zone)).toBe(instant));

it.each([
  ['2026-11-24', 'week', '2026-11-23'],
  ['2026-11-22', 'week', '2026-11-16'],
  ['2026-11-24', 'quarter', '2026-10-01'],
  ['2027-01-01', 'week', '2026-12-28'],
] as const)('%s is in the %s that begins on %s', (day, unit, start) =>
  expect(startOfUnit(day, unit)).toBe(start),
);

it.each<[string, string, [string, string][]]>([
  ['2026-11-24', '2026-12-09', [['11-24', '12-08']]],
  [
    '2026-12-20',
    '2027-01-06',
    [
      ['12-20', '12-31'],
      ['01-01', '01-05'],
    ],
  ],
  ['2026-12-01', '2027-01-01', [['12-01', '12-31']]],
  ['2026-01-01', '2028-01-01', [['01-01', '12-31']]],
  ['2026-02-02', '2026-02-02', []],
])('days of the year from %s to before %s', (from, to, ranges) =>
  expect(yearlyRanges({ from, to })).toEqual(ranges),
);
