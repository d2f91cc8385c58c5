import { DateTime } from 'luxon';
import { digestDay, isQuiet, mailableAt } from './noticeTimes';

const at = (iso: string): DateTime => DateTime.fromISO(iso, { zone: 'utc' });
const mailed = (iso: string, zone: string, from: string, until: string) =>
  mailableAt(at(iso), zone, { from, until }).toISO({ suppressMilliseconds: true });

describe('quiet hours', () => {
  it.each([
    // Over midnight, in Berlin (UTC+1).
    ['2026-11-28T20:59:00Z', '2026-11-28T21:59:00+01:00'],
    ['2026-11-28T21:00:00Z', '2026-11-29T07:00:00+01:00'],
    ['2026-11-29T02:00:00Z', '2026-11-29T07:00:00+01:00'],
    ['2026-11-29T06:00:00Z', '2026-11-29T07:00:00+01:00'],
  ])('from 22:00 to 07:00: what comes at %s is mailed at %s', (iso, when) => {
    expect(mailed(iso, 'Europe/Berlin', '22:00', '07:00')).toBe(when);
  });
  it('begin and end at their minute, on the clock of whoever rests', () => {
    const night = { from: '22:00', until: '07:00' };
    const quiet = (iso: string) => isQuiet(new Date(iso), 'Europe/Berlin', night);
    expect(
      ['2026-11-28T20:59:59Z', '2026-11-28T21:00:00Z', '2026-11-29T05:59:59Z', '2026-11-29T06:00:00Z'].map(
        quiet,
      ),
    ).toEqual([false, true, true, false]);
    expect(isQuiet(new Date('2026-11-28T21:00:00Z'), 'Europe/Berlin', null)).toBe(false);
  });
  it('within a day', () => {
    expect(mailed('2026-11-28T12:30:00Z', 'UTC', '12:00', '13:00')).toBe('2026-11-28T13:00:00Z');
    expect(mailed('2026-11-28T13:00:00Z', 'UTC', '12:00', '13:00')).toBe('2026-11-28T13:00:00Z');
  });
  it('in the night in which the clocks change', () => {
    // At 02:00 on 28 March 2027 it becomes 03:00 in Berlin; 02:30 comes at 03:30.
    expect(mailed('2027-03-28T00:30:00Z', 'Europe/Berlin', '22:00', '02:30')).toBe(
      '2027-03-28T03:30:00+02:00',
    );
    expect(mailed('2027-03-27T23:00:00Z', 'Europe/Berlin', '22:00', '07:00')).toBe(
      '2027-03-28T07:00:00+02:00',
    );
  });
  it('none are no limit', () => {
    expect(mailableAt(at('2026-11-28T02:00:00Z'), 'utc', null).toMillis()).toBe(
      at('2026-11-28T02:00:00Z').toMillis(),
    );
    expect(mailed('2026-11-28T02:00:00Z', 'UTC', '08:00', '08:00')).toBe('2026-11-28T02:00:00Z');
  });
});

describe('the mail of the day', () => {
  it('goes out once a day, on the reader’s own clock', () => {
    expect(digestDay(at('2026-11-28T07:59:00Z'), 'Europe/London', '08:00', '2026-11-27')).toBeNull();
    expect(digestDay(at('2026-11-28T08:00:00Z'), 'Europe/London', '08:00', '2026-11-27')).toBe('2026-11-28');
    expect(digestDay(at('2026-11-28T23:00:00Z'), 'Europe/London', '08:00', '2026-11-28')).toBeNull();
    expect(digestDay(at('2026-11-28T23:30:00Z'), 'Asia/Tokyo', '08:00', '2026-11-28')).toBe('2026-11-29');
    expect(digestDay(at('2026-11-28T12:00:00Z'), 'utc', '08:00', null)).toBe('2026-11-28');
  });
  it('is not missed by an hour that a change of the clocks leaves out', () => {
    expect(digestDay(at('2027-03-28T01:45:00Z'), 'Europe/Berlin', '02:30', '2027-03-27')).toBe('2027-03-28');
  });
});
