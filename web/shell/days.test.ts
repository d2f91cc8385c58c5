import { addDays, firstWeekday, rangeOf, startOfWeek, stepFrom } from './days';

it('counts days over the ends of months and years, and over the change of the clocks', () => {
  expect(addDays('2026-12-31', 1)).toBe('2027-01-01');
  expect(addDays('2028-02-28', 1)).toBe('2028-02-29');
  expect(addDays('2026-03-28', 2)).toBe('2026-03-30');
});

it('begins a week where somebody’s weeks begin', () => {
  // Saturday, 28 November 2026.
  expect(startOfWeek('2026-11-28', 1)).toBe('2026-11-23');
  expect(startOfWeek('2026-11-28', 7)).toBe('2026-11-22');
  expect(startOfWeek('2026-11-22', 7)).toBe('2026-11-22');
  expect(startOfWeek('2026-11-28', 6)).toBe('2026-11-28');
  expect([firstWeekday('en-GB'), firstWeekday('en-US'), firstWeekday('not a locale!')]).toEqual([1, 7, 1]);
});

it.each([
  ['day', '2026-11-28', '2026-11-29'],
  ['week', '2026-11-23', '2026-11-30'],
  ['month', '2026-10-26', '2026-12-07'],
  ['agenda', '2026-11-28', '2026-12-12'],
] as const)('a %s shows what belongs to it', (span, from, until) => {
  expect(rangeOf(span, '2026-11-28', 1)).toEqual({ from, until });
});

it('a month that fills whole weeks shows no others', () => {
  // February 2027 begins on a Monday and has 28 days.
  expect(rangeOf('month', '2027-02-10', 1)).toEqual({ from: '2027-02-01', until: '2027-03-01' });
});

it('steps by what is shown, and over the end of a long month', () => {
  expect(stepFrom('month', '2027-01-31', 1)).toBe('2027-02-01');
  expect(stepFrom('month', '2027-01-31', -1)).toBe('2026-12-01');
  expect(stepFrom('week', '2026-11-28', -1)).toBe('2026-11-21');
  expect(stepFrom('agenda', '2026-11-28', 1)).toBe('2026-12-12');
});
