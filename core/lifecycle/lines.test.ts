import fc from 'fast-check';
import { lineNet, totalsOf, type LineFacts } from './lines';

const line = (given: Partial<LineFacts>): LineFacts => ({
  quantity: 1,
  unitMinor: 0,
  discountPercent: 0,
  taxPercent: 0,
  charged: 'once',
  periods: 1,
  ...given,
});

describe('totals', () => {
  it('reckon tax as the base example of Peppol BIS Billing 3.0 (EN 16931) does', () => {
    // From memory: seven days at 400 and a charge of 25, 25 per cent: taxable 2825 less the credited 1500 is 1325, tax
    // 331.25, payable 1656.25. Credited lines do not exist here; the same rate and base are reached by one line of 1325.
    const { netMinor, taxes, grossMinor } = totalsOf([line({ unitMinor: 132_500, taxPercent: 25 })]);
    expect([netMinor, taxes, grossMinor]).toEqual([
      132_500,
      [{ percent: 25, netMinor: 132_500, taxMinor: 33_125 }],
      165_625,
    ]);
    expect(totalsOf([line({ quantity: 7, unitMinor: 40_000 })]).netMinor).toBe(280_000);
  });
  it('round to the nearest penny as HMRC’s VAT Notice 700, 17.5, works it: 86.76p is 87p', () => {
    // From memory of the notice: tax of 86.76p may be rounded to 87p. 4.338 at 20 per cent is 0.8676.
    expect(lineNet({ quantity: '0.723', unitMinor: 120, discountPercent: 0 })).toBe(87);
  });
  it('reckon tax on the sum of a rate, not line by line', () => {
    // Three lines of 0.33 at 20 per cent: by line 0.07 × 3 = 0.21, on the sum 0.198 → 0.20.
    const three = [1, 2, 3].map(() => line({ unitMinor: 33, taxPercent: 20 }));
    expect(totalsOf(three).taxMinor).toBe(20);
  });
  it('keep rates apart, the highest first', () =>
    expect(
      totalsOf([
        line({ unitMinor: 1000, taxPercent: '5.5' }),
        line({ unitMinor: 2000, taxPercent: 20 }),
        line({ unitMinor: 50, taxPercent: '5.50' }),
      ]).taxes,
    ).toEqual([
      { percent: 20, netMinor: 2000, taxMinor: 400 },
      { percent: 5.5, netMinor: 1050, taxMinor: 58 },
    ]));
  it('count what recurs over its periods, and say what a month and a year cost', () =>
    expect(
      totalsOf([
        line({ unitMinor: 450_000, quantity: 4, discountPercent: '7.5' }),
        line({ unitMinor: 1999, quantity: 4, charged: 'month', periods: 24 }),
        line({ unitMinor: 10_000, charged: 'year', periods: 3 }),
      ]),
    ).toMatchObject({
      lines: [1_665_000, 191_904, 30_000],
      onceMinor: 1_665_000,
      monthMinor: 7996,
      yearMinor: 10_000,
      netMinor: 1_886_904,
    }));
  it('are exact where floats fail: 1.15 × 100 less 0.05 %', () =>
    expect(lineNet({ quantity: '1.15', unitMinor: 100_000, discountPercent: '0.05' })).toBe(114_943));
  it('are never off by more than half a unit, and the gross is the net and the tax', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            quantity: fc.integer({ min: 1, max: 99_999 }).map((each) => (each / 1000).toFixed(3)),
            unitMinor: fc.integer({ min: 0, max: 10_000_000 }),
            discountPercent: fc.integer({ min: 0, max: 10_000 }).map((each) => (each / 100).toFixed(2)),
            taxPercent: fc.constantFrom('0', '5.5', '20', '25'),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (given) => {
          const lines = given.map(line);
          const totals = totalsOf(lines);
          for (const [at, one] of lines.entries()) {
            const real = one.unitMinor * Number(one.quantity) * (1 - Number(one.discountPercent) / 100);
            expect(Math.abs((totals.lines[at] ?? 0) - real)).toBeLessThanOrEqual(0.5 + real * 1e-9);
          }
          expect(totals.grossMinor).toBe(totals.netMinor + totals.taxMinor);
          expect(totals.taxes.reduce((sum, one) => sum + one.netMinor, 0)).toBe(totals.netMinor);
        },
      ),
    ));
});
