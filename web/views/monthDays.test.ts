import { dayIn, isMonth } from './monthDays';

it('a month is one that can be shown', () => {
  expect(['2026-11', '1999-01'].every(isMonth)).toBe(true);
  expect(['2026-13', '2026-00', '0000-05', '26-11', 'x', '2026-11-01', ''].some(isMonth)).toBe(false);
});

const november = { from: '2026-10-26', until: '2026-12-07' };
const winter = { from: '2026-12-28', until: '2027-02-01' };

it('a day stands on itself, and a day that comes back every year on the one of this year', () => {
  expect(dayIn('2026-11-09', 'day', november)).toBe('2026-11-09');
  expect(dayIn('1984-11-09', 'yearly', november)).toBe('2026-11-09');
});

it('a day that comes back every year stands on either side of the new year', () => {
  expect(dayIn('1984-12-30', 'yearly', winter)).toBe('2026-12-30');
  expect(dayIn('1984-01-02', 'yearly', winter)).toBe('2027-01-02');
  expect(dayIn('1984-06-02', 'yearly', winter)).toBeNull();
});

it('what says no day stands nowhere', () => {
  expect(dayIn(null, 'day', november)).toBeNull();
  expect(dayIn('', 'yearly', november)).toBeNull();
});
