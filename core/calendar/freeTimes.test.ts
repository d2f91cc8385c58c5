import { DateTime } from 'luxon';
import { findFreeTimes, inHalf, readFreeTimeWish, type Schedule } from './freeTimes';
import { MONDAY_TO_FRIDAY } from './workingDays';

const lisbon: Schedule = {
  zone: 'Europe/Lisbon',
  from: '09:00',
  until: '17:30',
  free: MONDAY_TO_FRIDAY,
  busy: [],
};
const times = (schedules: Schedule[], start: string, end: string, minutes: number, most = 9) =>
  findFreeTimes(schedules, { start, end }, minutes, most).map(
    (one) =>
      `${DateTime.fromISO(one.start, { zone: schedules[0]?.zone ?? 'utc' }).toFormat('ccc HH:mm')}–${DateTime.fromISO(one.end, { zone: schedules[0]?.zone ?? 'utc' }).toFormat('HH:mm')}`,
  );

describe('when several are free at once', () => {
  // Monday, 30 November 2026.
  const [monday, tuesday] = ['2026-11-30T00:00:00Z', '2026-12-01T00:00:00Z'];

  it('within hours, on the half hour, three a day, without overlapping', () => {
    expect(times([lisbon], monday, '2026-12-02T00:00:00Z', 45)).toEqual([
      'Mon 09:00–09:45',
      'Mon 10:00–10:45',
      'Mon 11:00–11:45',
      'Tue 09:00–09:45',
      'Tue 10:00–10:45',
      'Tue 11:00–11:45',
    ]);
  });

  it('around what each of them has already, to the minute', () => {
    const busy = [
      { start: '2026-11-30T09:15:00Z', end: '2026-11-30T12:00:00Z' },
      { start: '2026-11-30T13:00:00Z', end: '2026-11-30T16:31:00Z' },
    ];
    expect(times([{ ...lisbon, busy }], monday, tuesday, 60)).toEqual(['Mon 12:00–13:00']);
    const other = { ...lisbon, busy: [{ start: '2026-11-30T12:59:00Z', end: '2026-11-30T13:01:00Z' }] };
    expect(times([{ ...lisbon, busy }, other], monday, tuesday, 60)).toEqual([]);
    expect(times([{ ...lisbon, busy }, other], monday, tuesday, 30)).toEqual([
      'Mon 12:00–12:30',
      'Mon 17:00–17:30',
    ]);
  });

  it('within the hours of both, each on their own clock', () => {
    const sydney = { ...lisbon, zone: 'Australia/Sydney', from: '08:00', until: '21:00' };
    expect(times([lisbon, sydney], monday, tuesday, 60)).toEqual(['Mon 09:00–10:00']);
    const newYork = { ...lisbon, zone: 'America/New_York' };
    expect(times([lisbon, newYork], monday, tuesday, 60)).toEqual([
      'Mon 14:00–15:00',
      'Mon 15:00–16:00',
      'Mon 16:00–17:00',
    ]);
  });

  it('not on a day on which one of them does not work', () => {
    const holiday = {
      ...lisbon,
      free: { weekend: [6, 7], closed: new Map([['2026-12-01', 'Restoration Day']]) },
    };
    expect(times([lisbon, holiday], tuesday, '2026-12-03T00:00:00Z', 60, 1)).toEqual(['Wed 09:00–10:00']);
    expect(times([lisbon], '2026-11-28T00:00:00Z', '2026-11-29T23:00:00Z', 30)).toEqual([]);
  });

  it('over the night on which clocks go forward, at the hours of the clock', () => {
    const daily = { ...lisbon, free: { weekend: [], closed: new Map<string, string>() } };
    expect(
      findFreeTimes([daily], { start: '2026-03-28T16:00:00Z', end: '2026-03-29T10:00:00Z' }, 60, 3).map(
        ({ start }) => start,
      ),
    ).toEqual(['2026-03-28T16:00:00.000Z', '2026-03-29T08:00:00.000Z', '2026-03-29T09:00:00.000Z']);
  });

  it('nothing that ends after what is asked for, or that began already', () => {
    expect(times([lisbon], '2026-11-30T09:10:00Z', '2026-11-30T10:15:00Z', 45)).toEqual(['Mon 09:30–10:15']);
    expect(times([lisbon], '2026-11-30T09:10:00Z', '2026-11-30T10:00:00Z', 45)).toEqual([]);
  });

  it('in the half of the day that is asked for', () => {
    expect(times([inHalf(lisbon, 'afternoon')], monday, tuesday, 60, 1)).toEqual(['Mon 12:00–13:00']);
    expect(times([inHalf(lisbon, 'morning')], monday, tuesday, 120, 9)).toEqual(['Mon 09:00–11:00']);
  });
});

describe('what is asked for in words', () => {
  // A Friday afternoon.
  const now = DateTime.fromISO('2026-11-27T15:00:00', { zone: 'Europe/Lisbon' });
  const wish = (typed: string) => {
    const read = readFreeTimeWish(typed, now);
    return read && [read.minutes, read.within.start.slice(0, 16), read.within.end.slice(0, 10), read.half];
  };
  it.each([
    ['next week, 45 min', [45, '2026-11-30T00:00', '2026-12-06', null]],
    ['this week', [30, '2026-11-27T15:00', '2026-11-29', null]],
    ['an hour next week', [60, '2026-11-30T00:00', '2026-12-06', null]],
    ['in 2 weeks, 1.5 hours', [90, '2026-12-07T00:00', '2026-12-13', null]],
    ['half an hour', [30, '2026-11-27T15:00', '2026-12-11', null]],
    ['Thursday afternoon, 90 minutes', [90, '2026-12-03T00:00', '2026-12-03', 'afternoon']],
    ['tomorrow morning', [30, '2026-11-28T00:00', '2026-11-28', 'morning']],
    ['today 2h', [120, '2026-11-27T15:00', '2026-11-27', null]],
    ['2026-12-10, an hour and a half', [90, '2026-12-10T00:00', '2026-12-10', null]],
    ['', [30, '2026-11-27T15:00', '2026-12-11', null]],
  ])('%s', (typed, expected) => {
    expect(wish(typed)).toEqual(expected);
  });
  it('a day that is none is said to be none', () => {
    expect(wish('blue moon')).toBeNull();
  });
});
