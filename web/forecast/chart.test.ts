import '../testing/browser';
import type { BackTest, Forecast } from '@emporikon/contract/forecast';
import { openPage, type Page } from '../testing/page';
import { backTestTraces, forecastTraces, layout } from './chart';

let page: Page;
beforeEach(() => (page = openPage()));
afterEach(() => page.close());

const forecast = {
  currency: 'EUR',
  months: [
    {
      month: '2026-11',
      wonMinor: 100_000,
      committedMinor: 200_000,
      bestMinor: 300_000,
      weightedMinor: 250_000,
    },
    { month: '2026-12', wonMinor: 0, committedMinor: 0, bestMinor: 0, weightedMinor: 50_000 },
  ],
  simulated: { months: [{ low: 150_000, high: 400_000 }] },
} as unknown as Forecast;

it('draws what is counted in whole units of the currency', () => {
  const [won, committed, best, weighted] = forecastTraces(forecast) as unknown as {
    name: string;
    x: string[];
    y: number[];
    error_y?: { array: number[]; arrayminus: number[] };
  }[];
  expect(won).toMatchObject({ name: 'Won', x: ['Nov 2026', 'Dec 2026'], y: [1000, 0] });
  expect([committed?.y, best?.y, weighted?.y]).toEqual([
    [2000, 0],
    [3000, 0],
    [2500, 500],
  ]);
  expect(weighted?.error_y).toMatchObject({ array: [1500, 0], arrayminus: [1000, 500] });
});

it('a currency without minor units is not divided', () => {
  const [won] = forecastTraces({ ...forecast, currency: 'JPY' }) as unknown as { y: number[] }[];
  expect(won?.y).toEqual([100_000, 0]);
});

it('a range never turns inside out', () => {
  const items = [
    { month: '2026-10', weightedMinor: 100_000, low: 120_000, high: 90_000, seenMinor: 1, wonMinor: 2 },
  ] as unknown as BackTest[];
  const [line, seen, won] = backTestTraces(items, 'EUR') as unknown as {
    y: number[];
    error_y: { array: number[]; arrayminus: number[] };
  }[];
  expect([line?.error_y.array, line?.error_y.arrayminus]).toEqual([[0], [0]]);
  expect([seen?.y, won?.y]).toEqual([[0.01], [0.02]]);
});

it('takes its colours from the theme in use', () => {
  expect(layout('GBP')).toMatchObject({ font: { color: '--ink' }, yaxis: { tickprefix: 'GBP ' } });
});
