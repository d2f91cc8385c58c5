import '../testing/browser';
import type { DealRow } from '@emporikon/contract/deals';
import { createPinia, setActivePinia } from 'pinia';
import { cardWords, percentOf } from './cardWords';

beforeAll(() => setActivePinia(createPinia()));

const turn = (turn: DealRow['turn']['turn']): DealRow['turn'] => ({ turn, since: null, because: '' });
const move = {} as DealRow['nextMove'];
const news = (sentence: string | null): DealRow['news'] => ({ count: 3, sentence });

it.each([
  [{ days: 9, nextMove: move, news: null, turn: turn('ours') }, true, '9 days, our turn'],
  [{ days: 9, nextMove: move, news: null, turn: turn('theirs') }, false, 'their turn'],
  [{ days: 9, nextMove: move, news: news(null), turn: turn('nobody') }, false, '3 new'],
  [{ days: 9, nextMove: null, news: news(null), turn: turn('ours') }, true, 'no next move'],
  [
    { days: 9, nextMove: null, news: news('They want it sooner'), turn: turn('ours') },
    true,
    '“They want it sooner”',
  ],
] as const)('%o, late: %s, says %s', (deal, isLate, words) => {
  expect(cardWords(deal, { isOpen: true, isLate })).toBe(words);
  expect(cardWords(deal, { isOpen: false, isLate })).toBe('');
});

it('a chance is a whole number of per cent, or none', () => {
  expect(['60', '60 %', '0', ''].map(percentOf)).toEqual([60, 60, 0, null]);
  for (const wrong of ['101', '-1', '1.5', 'high']) expect(() => percentOf(wrong)).toThrow(/0 to 100/);
});
