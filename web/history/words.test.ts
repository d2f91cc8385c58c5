import '../testing/browser';
import type { Me } from '@emporikon/contract/session';
import { useSession } from '../shell/session';
import { openPage, type Page } from '../testing/page';
import { recordPath, valueWords } from './words';

let page: Page;
beforeEach(() => {
  page = openPage();
  useSession().me = { timeZone: 'UTC', locale: 'en-GB' } as Me;
});
afterEach(() => page.close());

it('writes days, times and sums as the reader does, and a dash for nothing', () => {
  expect(valueWords(null, { type: 'text', currency: null })).toBe('–');
  expect(valueWords('2026-12-03', { type: 'day', currency: null })).toMatch(/3/);
  expect(valueWords('--12-03', { type: 'day', currency: null })).toBe('--12-03');
  expect(valueWords('4000000', { type: 'money', currency: 'EUR' })).toMatch(/40[., ]?000/);
  expect(valueWords('2026-12-03T10:15:00.000Z', { type: 'time', currency: null })).toMatch(/10:15/);
  expect(valueWords('Buyer', { type: 'text', currency: null })).toBe('Buyer');
});

it('leads to the page of a record, and of a contact detail to its person', () => {
  expect(recordPath({ table: 'deals', id: 'x', name: '' })).toBe('/deals/x');
  expect(recordPath({ table: 'contact_points', id: 'x', name: '' })).toBe('/people/x');
  expect(recordPath({ table: 'tasks', id: 'x', name: '' })).toBeNull();
});
