import { DateTime } from 'luxon';
import { officeTime, workday } from './clock';

const at = (iso: string): DateTime => DateTime.fromISO(iso, { zone: 'Europe/London' });
/** Every 37 minutes of two weeks. */
const moments = Array.from({ length: 544 }, (_, index) =>
  at('2026-11-16T00:00').plus({ minutes: index * 37 }),
);

describe('the demo’s clock', () => {
  it('tells of nothing outside working hours, and of nothing to come', () => {
    for (const moment of moments) {
      const told = officeTime(moment);
      expect(told.weekday).toBeLessThanOrEqual(5);
      expect(told.hour).toBeGreaterThanOrEqual(8);
      expect(told.hour + told.minute / 60).toBeLessThanOrEqual(18);
      expect(told.toMillis()).toBeLessThanOrEqual(moment.toMillis());
    }
  });
  it('never tells what came earlier as later', () => {
    const told = moments.map((moment) => officeTime(moment).toMillis());
    expect([...told].sort((a, b) => a - b)).toEqual(told);
  });
  it('moves a day to come on to Monday and a day gone back to Friday', () => {
    expect(workday(at('2026-11-25'), 3).toISODate()).toBe('2026-11-30');
    expect(workday(at('2026-11-24'), -2).toISODate()).toBe('2026-11-20');
  });
});
