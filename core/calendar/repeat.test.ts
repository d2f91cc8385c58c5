import { DateTime } from 'luxon';
import { freeDaysOf } from './holidays';
import { reminderTimes, type Reminder } from './reminders';
import { dueAgain, isLaterTime, isRepeat } from './repeat';
import { findRepeat, repeatInWords } from './repeatWords';

const zone = 'Europe/London';
const ENGLAND = freeDaysOf('GB-ENG', [2026, 2027]);
const again = (repeat: string, occursAt: string, doneAt: string, firstAt = occursAt) => {
  const next = dueAgain({ repeat, occursAt, firstAt, doneAt, zone }, ENGLAND);
  return next && [next.occursAt, next.dueAt].map((at) => at.toFormat('yyyy-MM-dd HH:mm'));
};

describe('a task that repeats', () => {
  it('comes again by its rule', () => {
    expect(again('FREQ=MONTHLY;BYDAY=1MO', '2026-11-02T00:00', '2026-11-03T10:00')).toEqual([
      '2026-12-07 00:00',
      '2026-12-07 00:00',
    ]);
    expect(again('FREQ=WEEKLY;BYDAY=TU,TH', '2026-12-01T09:30', '2026-12-01T08:00')?.[1]).toBe(
      '2026-12-03 09:30',
    );
  });
  it('done before its day, it does not come twice in one week', () => {
    expect(again('FREQ=WEEKLY;BYDAY=FR', '2026-12-04T00:00', '2026-11-30T10:00')?.[1]).toBe(
      '2026-12-11 00:00',
    );
  });
  it('what was missed does not pile up', () => {
    expect(again('FREQ=WEEKLY;BYDAY=MO', '2026-10-05T00:00', '2026-11-28T10:00')?.[1]).toBe(
      '2026-11-30 00:00',
    );
    expect(again('FREQ=DAILY', '2026-11-01T00:00', '2026-11-28T10:00')?.[1]).toBe('2026-11-29 00:00');
  });
  it('on a free day it comes on the working day before, and the rule goes on from its own day', () => {
    // 15 August 2026 is a Saturday.
    expect(again('FREQ=MONTHLY;BYMONTHDAY=15', '2026-07-15T00:00', '2026-07-15T10:00')).toEqual([
      '2026-08-15 00:00',
      '2026-08-14 00:00',
    ]);
    expect(
      again('FREQ=MONTHLY;BYMONTHDAY=15', '2026-08-15T00:00', '2026-08-14T10:00', '2026-07-15T00:00')?.[1],
    ).toBe('2026-09-15 00:00');
    // Easter Monday is 6 April 2026, Good Friday the 3rd.
    expect(again('FREQ=WEEKLY;BYDAY=MO', '2026-03-30T00:00', '2026-03-30T10:00')).toEqual([
      '2026-04-06 00:00',
      '2026-04-02 00:00',
    ]);
    expect(again('FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', '2026-04-02T00:00', '2026-04-02T10:00')?.[1]).toBe(
      '2026-04-07 00:00',
    );
  });
  it('a rule may ask for a Saturday', () => {
    expect(again('FREQ=WEEKLY;BYDAY=SA', '2026-11-28T00:00', '2026-11-28T10:00')?.[1]).toBe(
      '2026-12-05 00:00',
    );
  });
  it('after it was done it rests so long, and ends on a working day', () => {
    expect(again('P3W', '2026-11-02T09:00', '2026-11-28T10:00')?.[1]).toBe('2026-12-21 09:00');
    expect(again('P1M', '2026-01-31T00:00', '2026-01-31T10:00')?.[1]).toBe('2026-03-02 00:00');
  });
  it('ends after so many times', () => {
    const third = again('FREQ=WEEKLY;COUNT=3', '2026-11-16T00:00', '2026-11-16T10:00', '2026-11-09T00:00');
    expect(third?.[1]).toBe('2026-11-23 00:00');
    expect(
      again('FREQ=WEEKLY;COUNT=3', '2026-11-23T00:00', '2026-11-23T10:00', '2026-11-09T00:00'),
    ).toBeNull();
  });
  it('keeps its time over a change of the clocks', () => {
    expect(again('FREQ=DAILY', '2027-03-27T09:00', '2027-03-27T10:00')?.[1]).toBe('2027-03-28 09:00');
  });
});

describe('a repeat in words', () => {
  it.each([
    ['every first Monday', 'FREQ=MONTHLY;BYDAY=1MO', 'every first Monday of the month'],
    ['on the last Friday of each month', 'FREQ=MONTHLY;BYDAY=-1FR', 'every last Friday of the month'],
    ['every Monday', 'FREQ=WEEKLY;BYDAY=MO', 'every Monday'],
    ['every Thu and Tue', 'FREQ=WEEKLY;BYDAY=TU,TH', 'every Tuesday and Thursday'],
    ['every other Tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', 'every 2 weeks on Tuesday'],
    ['every 2 weeks on Wed', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=WE', 'every 2 weeks on Wednesday'],
    ['every working day', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'every working day'],
    [
      'every last working day of the month',
      'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
      'every last working day of the month',
    ],
    ['every month on the 15th', 'FREQ=MONTHLY;BYMONTHDAY=15', 'every month on the 15th'],
    ['monthly on the last day', 'FREQ=MONTHLY;BYMONTHDAY=-1', 'every month on the last day'],
    ['every three months', 'FREQ=MONTHLY;INTERVAL=3', 'every 3 months'],
    ['quarterly', 'FREQ=MONTHLY;INTERVAL=3', 'every 3 months'],
    ['every week, 4 times', 'FREQ=WEEKLY;COUNT=4', 'every week, 4 times'],
    ['every year', 'FREQ=YEARLY', 'every year'],
    ['3 weeks after done', 'P3W', '3 weeks after it is done'],
    ['every two months after it is done', 'P2M', '2 months after it is done'],
    ['a week after it’s done', 'P1W', '1 week after it is done'],
  ])('%j is %s, %s', (words, repeat, shown) => {
    const found = findRepeat(`Fix the price list ${words}`);
    expect(found?.repeat).toBe(repeat);
    expect(isRepeat(repeat)).toBe(true);
    expect(repeatInWords(repeat)).toBe(shown);
    expect([found?.start, found?.end]).toEqual([19, 19 + words.length]);
  });
  it.each([
    'call her on Monday',
    'in 3 weeks',
    'they order every bike',
    'the first Monday was fine',
    'weekend',
    'every 0 weeks',
  ])('%j names no repeat', (words) => {
    expect(findRepeat(words)).toBeNull();
  });
  it('an end and months are told', () => {
    expect(repeatInWords('FREQ=YEARLY;BYMONTH=6,7;UNTIL=20271224T000000Z')).toBe(
      'every year in June and July, until 24 Dec 2027',
    );
  });
});

describe('a time that is left out', () => {
  const series = {
    ...{ repeat: 'FREQ=WEEKLY', zone: 'Europe/London' },
    ...{ firstAt: '2027-03-09T10:00:00Z', occursAt: '2027-03-16T10:00:00Z' },
  };
  // The clocks go forward on 28 March.
  const leftOut = ['2027-03-23T10:00:00Z', '2027-03-30T09:00:00Z'];
  it('does not come, however many follow each other', () => {
    const next = dueAgain({ ...series, leftOut, doneAt: '2027-03-16T12:00:00Z' }, ENGLAND);
    expect(next?.occursAt.toUTC().toISO()).toBe('2027-04-06T09:00:00.000Z');
    const fifty = Array.from(
      { length: 50 },
      (_, week) =>
        DateTime.fromISO('2027-03-23T10:00', { zone: 'Europe/London' }).plus({ weeks: week }).toISO() ?? '',
    );
    const after = dueAgain({ ...series, leftOut: fifty, doneAt: '2027-03-16T12:00:00Z' }, ENGLAND);
    expect(after?.occursAt.toISODate()).toBe('2028-03-07');
  });
  it.each([
    ['2027-04-06T09:00:00Z', true],
    ['2027-04-06T11:00:00+02:00', true],
    ['2027-03-30T09:00:00Z', false],
    ['2027-04-06T10:00:00Z', false],
    ['2027-03-16T10:00:00Z', false],
    ['2027-03-09T10:00:00Z', false],
  ])('%s is a later time of the series: %s', (at, isTime) => {
    expect(isLaterTime({ ...series, leftOut }, at)).toBe(isTime);
    expect(isLaterTime({ ...series, repeat: 'P1W', leftOut }, at)).toBe(false);
  });
});

describe('reminders', () => {
  const at = (due: { dueAt: string; allDay: boolean; zone: string }, reminders: Reminder[], theirs: string) =>
    reminderTimes(due, reminders, theirs).map((time) => time.toISO({ suppressMilliseconds: true }));
  const DAY_BEFORE = { days: 1, at: '08:00' };
  it('the day before at eight, on the clock of whoever does it', () => {
    const due = { dueAt: '2026-12-03T00:00:00+01:00', allDay: true, zone: 'Europe/Berlin' };
    expect(at(due, [DAY_BEFORE], 'Europe/Lisbon')).toEqual(['2026-12-02T08:00:00+00:00']);
    expect(at(due, [DAY_BEFORE], 'America/New_York')).toEqual(['2026-12-02T08:00:00-05:00']);
  });
  it('so long before a time, whatever the clocks do', () => {
    const due = { dueAt: '2027-03-28T10:00:00+02:00', allDay: false, zone: 'Europe/Berlin' };
    expect(at(due, [{ minutes: 24 * 60 }, DAY_BEFORE, { minutes: 15 }], 'Europe/Berlin')).toEqual([
      '2027-03-27T08:00:00+01:00',
      '2027-03-27T09:00:00+01:00',
      '2027-03-28T09:45:00+02:00',
    ]);
  });
  it('an hour that the change of the clocks leaves out comes after it, and the same twice is one', () => {
    const due = { dueAt: '2027-03-29T00:00:00+02:00', allDay: true, zone: 'Europe/Berlin' };
    expect(
      at(
        due,
        [
          { days: 1, at: '02:30' },
          { days: 1, at: '02:30' },
        ],
        'Europe/Berlin',
      ),
    ).toEqual(['2027-03-28T03:30:00+02:00']);
  });
  it('before a whole day they count from nine in the morning', () => {
    const due = { dueAt: '2026-12-03T00:00:00Z', allDay: true, zone: 'UTC' };
    expect(at(due, [{ minutes: 30 }], 'UTC')).toEqual(['2026-12-03T08:30:00Z']);
    expect(DateTime.fromISO(at(due, [{ minutes: 30 }], 'UTC')[0] ?? '').isValid).toBe(true);
  });
});
