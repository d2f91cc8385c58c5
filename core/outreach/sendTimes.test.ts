import { DateTime } from 'luxon';
import { freeDaysOf } from '../calendar/holidays';
import { sendTimes } from './sendTimes';

const timesAt = (iso: string, zone: string, free = freeDaysOf('GB', [2026, 2027], new Map())) =>
  sendTimes(DateTime.fromISO(iso, { zone }), undefined, free).map(({ name, at }) => [name, at.toISO()]);

it('offers an hour of today, the next morning and Monday, all on their own clock', () => {
  // 13:10 in London on Tuesday 1 December 2026 is 08:10 in New York.
  expect(timesAt('2026-12-01T13:10:00Z', 'America/New_York')).toEqual([
    ['next hour', '2026-12-01T09:00:00.000-05:00'],
    ['morning', '2026-12-02T09:00:00.000-05:00'],
    ['monday', '2026-12-07T09:00:00.000-05:00'],
  ]);
  expect(timesAt('2026-12-01T16:40:00Z', 'Europe/London').map(([name]) => name)).toEqual([
    'morning',
    'monday',
  ]);
});

it('skips weekends and holidays, and names Monday once', () => {
  // gov.uk: Friday 25 December 2026, and Monday 28 in place of Saturday 26, are bank holidays.
  expect(timesAt('2026-12-24T20:00:00Z', 'Europe/London')).toEqual([
    ['morning', '2026-12-29T09:00:00.000+00:00'],
  ]);
  expect(timesAt('2026-12-05T10:00:00Z', 'Europe/London')).toEqual([
    ['morning', '2026-12-07T09:00:00.000+00:00'],
  ]);
});
