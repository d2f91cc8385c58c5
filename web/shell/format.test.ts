import '../testing/browser';
import type { Me } from '@emporikon/contract/session';
import { openPage, type Page } from '../testing/page';
import {
  ago,
  amountText,
  calendarDay,
  clock,
  day,
  due,
  fieldName,
  money,
  monthName,
  percent,
  roughMoney,
  shownCount,
  when,
} from './format';
import { useSession } from './session';

let page: Page;
beforeEach(() => {
  page = openPage();
  jest.useFakeTimers({ now: new Date('2026-11-27T12:00:00Z') });
  useSession().me = { timeZone: 'America/New_York' } as Me;
});
afterEach(() => {
  jest.useRealTimers();
  page.close();
});

/** Whether a comma follows the weekday differs between releases of the locale data. */
const dueWords = (move: Parameters<typeof due>[0]): string => due(move).replace('Mon,', 'Mon');

it('times stand on the clock of the signed-in person', () => {
  expect([clock('2026-11-27T03:05:00Z'), day('2026-11-27T03:05:00Z').replace('Thu,', 'Thu')]).toEqual([
    '22:05',
    'Thu 26 Nov',
  ]);
  expect(calendarDay('2026-11-27').replace('Fri,', 'Fri')).toBe('Fri 27 Nov');
  expect(monthName('2026-11')).toBe('Nov 2026');
});

it('today is told by the clock, any other day by its date', () => {
  expect([when('2026-11-27T11:00:00Z'), when('2026-11-27T03:00:00Z')]).toEqual(['06:00', '26 Nov']);
});

it('a next move has an hour only where it was given one, and an end where it has one', () => {
  const dueAt = '2026-11-30T16:00:00Z';
  expect(dueWords({ dueAt, allDay: true })).toBe('Mon 30 Nov');
  expect(dueWords({ dueAt, allDay: false, endAt: null })).toBe('Mon 30 Nov, 11:00');
  expect(dueWords({ dueAt, allDay: false, endAt: '2026-11-30T17:30:00Z' })).toBe('Mon 30 Nov, 11:00 – 12:30');
});

it.each([
  [4_000_000, 'EUR', '€40,000'],
  [1250, 'GBP', '£12.50'],
  [-1200, 'GBP', '-£12'],
  [1250, 'JPY', 'JP¥1,250'],
  [1_234_567, 'KWD', 'KWD 1,234.567'],
])('%d minor units of %s read %s', (minor, currency, words) => {
  expect(money(minor, currency).replace(/\u00a0/g, ' ')).toBe(words);
});

it('no sum is no zero', () => {
  expect([money(null, 'EUR'), money(0, 'EUR'), amountText(null, 'EUR'), amountText(1250, 'EUR')]).toEqual([
    'No value yet',
    '€0',
    '',
    '12.5',
  ]);
  expect(roughMoney(123_456, 'EUR')).toBe('€1,235');
});

it('what is not quite certain is never shown as certain', () => {
  expect([percent(0), percent(0.126), percent(0.999999), percent(1)]).toEqual(['0%', '13%', '99.9%', '100%']);
});

it('says how long ago, in the largest whole unit', () => {
  const before = (minutes: number): string => new Date(Date.now() - minutes * 60_000).toISOString();
  expect([-5, 0, 59, 60, 47 * 60, 48 * 60, 72 * 60].map((minutes) => ago(before(minutes)))).toEqual([
    '0 min',
    '0 min',
    '59 min',
    '1 h',
    '47 h',
    '2 days',
    '3 days',
  ]);
});

it('names fields by their kind, and says where a count goes on beyond what is counted', () => {
  expect([fieldName('phone', 'mobile'), fieldName('phone'), fieldName('unheard')]).toEqual([
    'Mobile',
    expect.stringMatching(/phone/i),
    'unheard',
  ]);
  expect([shownCount(0), shownCount(1000), shownCount(1001)]).toEqual(['0', '1,000', '1,000+']);
});
