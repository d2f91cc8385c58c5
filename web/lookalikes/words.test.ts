import '../testing/browser';
import type { Comparison } from '@emporikon/contract/lookAlikes';
import { openPage, type Page } from '../testing/page';
import { price } from '../lookups/money';
import { count, movesInWords, movesOne, pairsInWords } from './words';

let page: Page;
beforeEach(() => (page = openPage()));
afterEach(() => page.close());

const moves = (over: Partial<Comparison['moves']>): Comparison['moves'] => ({
  ledger: 0,
  leads: 0,
  deals: 0,
  tasks: 0,
  people: 0,
  contacts: 0,
  tags: 0,
  lists: 0,
  files: 0,
  claims: 0,
  ...over,
});

it.each([
  [{}, 'nothing', true],
  [{ ledger: 1 }, '1 ledger entry', true],
  [{ people: 1, deals: 2 }, '2 deals and 1 person', false],
  [{ ledger: 1234, leads: 1, claims: 2 }, '1,234 ledger entries, 1 lead and 2 claims', false],
])('%j reads “%s”', (given, words, isOne) => {
  expect([movesInWords(moves(given)), movesOne(moves(given))]).toEqual([words, isOne]);
});

it('counts and prices are written as the reader writes them', () => {
  expect(count(12_345)).toBe('12,345');
  expect([price(2.5, 'EUR'), price(1200, 'JPY')]).toEqual(['€0.03', 'JP¥1,200']);
});

it('a reason of a group says which of its records it is about, unless it is all of them', () => {
  const records = ['a', 'b', 'c'].map((id) => ({ id }));
  expect(pairsInWords([['a', 'c']], records)).toBe('1 and 3');
  expect(
    pairsInWords(
      [
        ['a', 'b'],
        ['b', 'c'],
      ],
      records,
    ),
  ).toBe('1 and 2; 2 and 3');
  expect(
    pairsInWords(
      [
        ['a', 'b'],
        ['a', 'c'],
        ['b', 'c'],
      ],
      records,
    ),
  ).toBe('');
});
