import { data } from 'currency-codes';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import fc from 'fast-check';
import { convert, divideRounded, rateOn, scaled } from './currencies';
import { decimalOf, minorDigits } from './minorUnits';

const require = createRequire(`${process.cwd()}/core/lifecycle/currencies.test.ts`);

describe('minor units', () => {
  // ISO 4217 list one as its maintenance agency publishes it, shipped beside the package's own table.
  const xml = readFileSync(
    require.resolve('currency-codes').replace('index.js', 'iso-4217-list-one.xml'),
    'utf8',
  );
  const entries = [...xml.matchAll(/<Ccy>(\w{3})<\/Ccy>\s*<CcyNbr>\d+<\/CcyNbr>\s*<CcyMnrUnts>(\d)</g)];
  it('are those of every currency of ISO 4217', () => {
    expect(entries.length).toBeGreaterThan(150);
    for (const [, currency = '', digits = ''] of entries)
      expect([currency, minorDigits(currency)]).toEqual([currency, Number(digits)]);
  });
  it('are written with as many places as the currency has', () =>
    expect([
      decimalOf(1234, 'EUR'),
      decimalOf(5, 'EUR'),
      decimalOf(1234, 'JPY'),
      decimalOf(1234, 'BHD'),
      decimalOf(-5, 'EUR'),
    ]).toEqual(['12.34', '0.05', '1234', '1.234', '-0.05']));
});

describe('decimals', () => {
  it('are read exactly where floats are not', () =>
    expect([scaled('1.005', 2), scaled('0.1', 3), scaled(1.005, 3), scaled('12', 0)]).toEqual([
      101n,
      100n,
      1005n,
      12n,
    ]));
  it('refuse what is no number', () => expect(() => scaled('12,5', 2)).toThrow(RangeError));
  it('round half away from zero', () => {
    expect([5n, -5n, 4n, 6n, 15n].map((value) => divideRounded(value, 10n))).toEqual([1n, -1n, 0n, 1n, 2n]);
    fc.assert(
      fc.property(fc.bigInt(-(10n ** 15n), 10n ** 15n), fc.bigInt(1n, 10n ** 6n), (value, by) => {
        const off = divideRounded(value, by) * by - value;
        expect(2n * (off < 0n ? -off : off) <= by).toBe(true);
      }),
    );
  });
});

describe('conversion', () => {
  // The fixed rates of Regulation (EC) 2866/98; the way through the euro and rounding to the nearest unit are those of
  // Regulation (EC) 1103/97, articles 4 and 5.
  const rates = [
    { currency: 'BEF', day: '1999-01-01', perHouse: '40.3399' },
    { currency: 'FRF', day: '1999-01-01', perHouse: '6.55957' },
    { currency: 'ITL', day: '1999-01-01', perHouse: '1936.27' },
  ];
  const at = { house: 'EUR', day: '1999-06-01' };
  it('goes through the house currency and rounds once', () => {
    // 1000 BEF / 40.3399 = 24.78935 EUR, × 6.55957 = 162.6075 FRF, worked by hand.
    expect(convert(100_000, { from: 'BEF', to: 'FRF', ...at }, rates)).toBe(16_261);
    expect(convert(10_000, { from: 'EUR', to: 'FRF', ...at }, rates)).toBe(65_596);
    expect(convert(1234, { from: 'EUR', to: 'EUR', ...at }, [])).toBe(1234);
  });
  it('knows currencies without minor units', () =>
    expect(
      convert(10_000, { from: 'EUR', to: 'JPY', ...at }, [
        { currency: 'JPY', day: '1999-01-01', perHouse: 130.5 },
      ]),
    ).toBe(13_050));
  it('takes the rate of the day, and says when there is none', () => {
    const dated = ['2026-01-01', '2026-06-01'].map((day, index) => ({
      currency: 'GBP',
      day,
      perHouse: 0.8 + index / 10,
    }));
    expect(
      ['2025-12-31', '2026-05-31', '2026-06-01'].map((day) => rateOn(dated, 'GBP', day)?.perHouse),
    ).toEqual([0.8, 0.8, 0.9]);
    expect(convert(1, { from: 'GBP', to: 'CHF', ...at }, dated)).toBeNull();
  });
});

// Source: ISO 4217 list one, as the package currency-codes has it.
it('every currency has the places of its minor unit', () => {
  expect(data.length).toBeGreaterThan(150);
  for (const { code, digits } of data) expect([code, minorDigits(code)]).toEqual([code, digits]);
  expect([minorDigits('eur'), minorDigits('jpy'), minorDigits('???')]).toEqual([2, 0, 2]);
});
