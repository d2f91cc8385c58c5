import fc from 'fast-check';
import { backTest, forecastCells, monthOf } from './forecast';
import { simulate, type ForecastDeal } from './play';

const deal = (minor: number, chance: number, given: Partial<ForecastDeal> = {}): ForecastDeal => ({
  id: `${minor}/${chance}`,
  ownerId: 'pell',
  minor,
  chance,
  won: false,
  month: '2026-12',
  ...given,
});
const options = { runs: 20_000, seed: 4600 };

describe('a forecast', () => {
  it('has won deals in all, likely ones in committed, each by its chance in weighted, all in best', () =>
    expect(
      forecastCells([
        deal(1000, 1, { won: true }),
        deal(2000, 0.8),
        deal(4000, 0.25),
        deal(500, 0.5, { ownerId: 'ines' }),
      ]),
    ).toEqual([
      {
        month: '2026-12',
        ownerId: 'ines',
        deals: 1,
        wonMinor: 0,
        committedMinor: 0,
        weightedMinor: 250,
        bestMinor: 500,
      },
      {
        month: '2026-12',
        ownerId: 'pell',
        deals: 3,
        wonMinor: 1000,
        committedMinor: 3000,
        weightedMinor: 3600,
        bestMinor: 7000,
      },
    ]));
  it('puts a deal whose day has passed into this month', () =>
    expect([
      monthOf('2026-10-01', '2026-11-25', '2027-01-01'),
      monthOf('2027-02-03', '2026-11-25', '2027-01-01'),
      monthOf(null, '2026-11-25', '2027-01-09'),
    ]).toEqual(['2026-11', '2027-02', '2027-01']));
});

/** Every way a few deals can end, with its probability: what the simulation draws from. */
function outcomes(deals: readonly ForecastDeal[]): { minor: number; probability: number }[] {
  return deals
    .reduce(
      (ways, one) =>
        ways.flatMap((way) => [
          { minor: way.minor + one.minor, probability: way.probability * one.chance },
          { minor: way.minor, probability: way.probability * (1 - one.chance) },
        ]),
      [{ minor: 0, probability: 1 }],
    )
    .sort((a, b) => a.minor - b.minor);
}

describe('the simulation', () => {
  const few = [0.2, 0.35, 0.5, 0.65, 0.8, 0.1, 0.9].map((chance, at) => deal(1000 * (at + 3) + at, chance));
  it('has the quantiles of all the ways the deals can end', () => {
    const ways = outcomes(few);
    const exact = (share: number): number => {
      let sum = 0;
      return ways.find((way) => (sum += way.probability) >= share)?.minor ?? 0;
    };
    const { total } = simulate(few, options);
    // A sampled share of 20,000 runs is off by at most 4 standard errors.
    const off = 4 * Math.sqrt(0.25 / options.runs);
    for (const [value, share] of [
      [total.low, 0.1],
      [total.middle, 0.5],
      [total.high, 0.9],
    ] as const) {
      expect(value).toBeGreaterThanOrEqual(exact(share - off));
      expect(value).toBeLessThanOrEqual(exact(share + off));
    }
  });
  it('has the mean Σ p·a, within what Σ p(1−p)a² allows', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 1, max: 1_000_000 }), fc.double({ min: 0.01, max: 0.99, noNaN: true })),
          { minLength: 1, maxLength: 30 },
        ),
        fc.integer(),
        (given, seed) => {
          const deals = given.map(([minor, chance]) => deal(minor, chance));
          const mean = deals.reduce((sum, one) => sum + one.minor * one.chance, 0);
          const variance = deals.reduce(
            (sum, one) => sum + one.minor ** 2 * one.chance * (1 - one.chance),
            0,
          );
          const { total } = simulate(deals, { runs: 4000, seed });
          expect(Math.abs(total.mean - mean)).toBeLessThan(6 * Math.sqrt(variance / 4000) + 1);
          expect(total.low).toBeLessThanOrEqual(total.middle);
          expect(total.middle).toBeLessThanOrEqual(total.high);
        },
      ),
      { numRuns: 40 },
    ));
  it('with most deals taken together is off by no more than it says, held against the exact distribution', () => {
    // The exact one by convolution, one deal after the other (the Poisson binomial with weights).
    const many = Array.from({ length: 1500 }, (_, at) =>
      deal(1 + ((at * 7919) % 19), [0.1, 0.3, 0.6, 0.85][at % 4] ?? 0),
    );
    let exact = Float64Array.of(1);
    for (const { minor, chance } of many) {
      const next = new Float64Array(exact.length + minor);
      for (const [sum, share] of exact.entries()) {
        next[sum] = (next[sum] ?? 0) + share * (1 - chance);
        next[sum + minor] = (next[sum + minor] ?? 0) + share * chance;
      }
      exact = next;
    }
    const upTo = (sum: number): number => exact.slice(0, sum + 1).reduce((all, one) => all + one, 0);
    for (const seed of [1, 2, 3]) {
      const { total, played } = simulate(many, { runs: 10_000, seed, mostDraws: 10_000 * 100 });
      expect(played).toBeLessThanOrEqual(100);
      expect(total.error).toBeLessThan(0.05);
      for (const [value, share] of [
        [total.low, 0.1],
        [total.middle, 0.5],
        [total.high, 0.9],
      ] as const) {
        expect(upTo(value)).toBeGreaterThan(share - total.error);
        expect(upTo(value - 1)).toBeLessThan(share + total.error);
      }
    }
  });
  it('says how far it may be off: less with more runs, more where few deals are taken together', () => {
    const some = Array.from({ length: 40 }, (_, at) => deal(100 + at, 0.5));
    const error = (runs: number, mostDraws: number): number =>
      simulate(some, { runs, seed: 1, mostDraws }).total.error;
    expect(error(10_000, Infinity)).toBeLessThan(error(1000, Infinity));
    expect(error(1000, 1000)).toBeGreaterThan(error(1000, Infinity));
  });
  it('gives the same for the same seed, and another for another', () => {
    expect(simulate(few, options)).toEqual(simulate(few, options));
    expect(simulate(few, { ...options, seed: 1 }).total.mean).not.toBe(simulate(few, options).total.mean);
  });
  it('is certain of what is won, what cannot be, and of no deals at all', () => {
    expect(simulate([deal(700, 1, { won: true }), deal(900, 0), deal(100, 1)], options).total).toMatchObject({
      low: 800,
      high: 800,
    });
    expect(simulate([], options).total).toMatchObject({ low: 0, high: 0, mean: 0 });
  });
});

it('a back-test holds the forecast of a month against what came of the deals that stood there', () =>
  expect(
    backTest(
      '2026-10',
      [deal(1000, 0.9, { month: '2026-10' }), deal(9000, 0.5, { month: '2026-11' })],
      { wonMinor: 1500, seenMinor: 1000 },
      options,
    ),
  ).toEqual({
    month: '2026-10',
    committedMinor: 1000,
    weightedMinor: 900,
    bestMinor: 1000,
    low: expect.any(Number) as number,
    high: 1000,
    wonMinor: 1500,
    seenMinor: 1000,
    isWithin: true,
  }));
