import { minorOf } from './sum';

// Minor digits: ISO 4217 list one (EUR 2, JPY 0, KWD 3).
it.each([
  ['40,000', 'EUR', 4_000_000],
  ['40.000', 'EUR', 4_000_000],
  ['£12.50', 'GBP', 1250],
  ['40k', 'EUR', 4_000_000],
  ['¥50,000', 'JPY', 50_000],
  ['50000', 'JPY', 50_000],
  ['1.250', 'KWD', 1_250_000],
  ['', 'EUR', null],
])('“%s” in %s is %s in its minor unit', (text, currency, minor) => {
  expect(minorOf(text, currency)).toBe(minor);
});

it('what is no sum is said so', () => {
  expect(() => minorOf('a lot', 'EUR')).toThrow('is not a sum');
});
