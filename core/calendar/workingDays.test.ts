import fc from 'fast-check';
import { DateTime } from 'luxon';
import { freeDaysOf, holidayPlaces, isHolidayPlace } from './holidays';
import {
  isWorkingDay,
  lastWorkingDayOf,
  nextWorkingDay,
  workingDayUntil,
  workingDaysOn,
} from './workingDays';

const day = (iso: string): DateTime => DateTime.fromISO(iso, { zone: 'Europe/London' });

describe('working days', () => {
  it.each([
    ['2026-11-26', '2026-11-27'],
    ['2026-11-27', '2026-11-30'],
    ['2026-11-28', '2026-11-30'],
    ['2026-11-29', '2026-11-30'],
  ])('after %s comes %s', (now, next) => {
    expect(nextWorkingDay(day(now)).toISODate()).toBe(next);
  });

  it.each([
    [0, '2026-11-27'],
    [1, '2026-11-30'],
    [3, '2026-12-02'],
    [6, '2026-12-07'],
  ])('%d of them after a Friday it is %s', (days, then) => {
    expect(workingDaysOn(day('2026-11-27T16:00'), days).toISO()).toBe(day(then).startOf('day').toISO());
  });

  it('ends where every day of the week is free', () => {
    const never = { weekend: [1, 2, 3, 4, 5, 6, 7], closed: new Map<string, string>() };
    expect(nextWorkingDay(day('2026-11-27'), never).isValid).toBe(true);
  });
});

describe('holidays', () => {
  // England and Wales, as gov.uk publishes them for 2026 and 2027; from memory.
  const ENGLAND = {
    2026: ['01-01', '04-03', '04-06', '05-04', '05-25', '08-31', '12-25', '12-28'],
    2027: ['01-01', '03-26', '03-29', '05-03', '05-31', '08-30', '12-27', '12-28'],
  };
  it.each([2026, 2027] as const)('the bank holidays of England in %d', (year) => {
    const { closed } = freeDaysOf('GB-ENG', [year]);
    const onWorkdays = [...closed.keys()].filter((iso) => day(iso).weekday < 6).sort();
    expect(onWorkdays).toEqual(ENGLAND[year].map((iso) => `${year}-${iso}`));
  });

  // By the computus Easter is on 5 April 2026; Corpus Christi is 60 days after it. Feriados nacionais, from memory.
  it('the holidays of Portugal that fall on the Thursday and Friday of a week', () => {
    const free = freeDaysOf('PT', [2026]);
    for (const iso of ['2026-04-03', '2026-06-04', '2026-06-10', '2026-12-01', '2026-12-08'])
      expect([iso, isWorkingDay(day(iso), free)]).toEqual([iso, false]);
    expect(isWorkingDay(day('2026-12-02'), free)).toBe(true);
  });

  // Three working days after Christmas Eve 2026 in England: 29, 30, 31 December (25 holiday, 26-27 weekend, 28 substitute).
  it('working days leave out weekends and holidays', () => {
    const free = freeDaysOf('GB-ENG', [2026, 2027]);
    expect(workingDaysOn(day('2026-12-24'), 3, free).toISODate()).toBe('2026-12-31');
    expect(workingDaysOn(day('2026-12-24'), 4, free).toISODate()).toBe('2027-01-04');
  });

  it('a part of a country has its own', () => {
    // Assumption Day is a holiday in Saarland and not in Berlin.
    expect(freeDaysOf('DE-SL', [2026]).closed.has('2026-08-15')).toBe(true);
    expect(freeDaysOf('DE-BE', [2026]).closed.has('2026-08-15')).toBe(false);
  });

  it('the weekend is that of the country', () => {
    expect(freeDaysOf('SA', []).weekend).toEqual([5, 6]);
    expect(freeDaysOf('FR', []).weekend).toEqual([6, 7]);
    expect(freeDaysOf('', []).weekend).toEqual([6, 7]);
  });

  it('days of the firm itself are free too', () => {
    const free = freeDaysOf('GB', [2026], new Map([['2026-11-30', 'Stocktaking']]));
    expect(nextWorkingDay(day('2026-11-27'), free).toISODate()).toBe('2026-12-01');
    expect(lastWorkingDayOf(day('2026-11-02'), 'month', free).toISODate()).toBe('2026-11-27');
    expect(workingDayUntil(day('2026-11-30'), free).toISODate()).toBe('2026-11-27');
  });

  it.each([
    ['PT', true],
    ['DE-BY', true],
    ['DE-XX', false],
    ['XX', false],
    ['pt', false],
    ['', false],
  ])('knows the place %j: %s', (place, isKnown) => {
    expect(isHolidayPlace(place)).toBe(isKnown);
  });
  it('names only places it knows', () => {
    const places = holidayPlaces();
    expect(places.length).toBeGreaterThan(200);
    expect(places.filter(({ code }) => !isHolidayPlace(code))).toEqual([]);
  });

  it('what comes is never a free day, whichever day it is asked on', () => {
    const free = freeDaysOf('GB-ENG', [2026, 2027]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 600 }), fc.integer({ min: 1, max: 20 }), (from, count) => {
        const then = workingDaysOn(day('2026-01-01').plus({ days: from }), count, free);
        expect(isWorkingDay(then, free)).toBe(true);
      }),
    );
  });
});
