import { keyOf, reminderChoices, reminderOf, reminderWords } from './reminders';

it.each([
  [{ days: 1, at: '08:00' }, '1 08:00', 'The day before at 08:00'],
  [{ days: 0, at: '09:30' }, '0 09:30', 'On the day at 09:30'],
  [{ days: 7, at: '08:00' }, '7 08:00', '7 days before at 08:00'],
  [{ minutes: 0 }, '0', 'At the time'],
  [{ minutes: 30 }, '30', '30 minutes before'],
  [{ minutes: 60 }, '60', '1 hour before'],
  [{ minutes: 90 }, '90', '90 minutes before'],
])('%o is held as %j and said as %j', (reminder, key, words) => {
  expect([keyOf(reminder), reminderOf(key), reminderWords(reminder)]).toEqual([key, reminder, words]);
});

it('a reminder that is not a usual one can be kept', () => {
  expect(reminderChoices([{ minutes: 45 }]).map(({ value }) => value)).toContain('45');
  expect(reminderChoices([]).map(({ value }) => value)).not.toContain('45');
});
