import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brier, reliability, wilson } from './calibration';
import {
  conditionsOf,
  fitOf,
  FIT_CONDITIONS,
  FIT_FIELDS,
  type FitFacts,
  type FitField,
  type FitRule,
} from './fit';
import { predict, trainLogistic } from './logistic';
import { decayed, USUAL_WARMTH, warmthOf, type Touch } from './warmth';
import { trainWinModel, winChance, type Closed, type WinFacts } from './winChance';

const nothing = Object.fromEntries(Object.keys(FIT_FIELDS).map((field) => [field, null])) as FitFacts;
const rule = (field: FitField, condition: FitRule['condition'], value: string, points: number): FitRule => ({
  id: `${field} ${condition}`,
  field,
  condition,
  value,
  points,
});

describe('fit', () => {
  const sheet = [
    rule('industry', 'is', 'Bakeries, Couriers', 30),
    rule('employees', 'at least', '5', 20),
    rule('country', 'is not', 'US', 10),
    rule('jobTitle', 'contains', 'student', -20),
  ];
  it('gives each rule its points, explained, and says what is not known', () => {
    const fit = fitOf(sheet, { ...nothing, industry: 'bakeries', employees: 4, country: 'PT' });
    expect(fit.parts.map((part) => [part.outcome, part.points, part.found])).toEqual([
      ['holds', 30, 'bakeries'],
      ['fails', 0, '4'],
      ['holds', 10, 'PT'],
      ['not known', 0, ''],
    ]);
    expect(fit.parts[0]?.words).toBe('Industry is Bakeries, Couriers');
    // From −20 to 60: 40 points are 60 of 80.
    expect([fit.points, fit.score]).toEqual([40, 75]);
  });
  it.each([
    ['contains', 'Head of Student Affairs', 'student', true],
    ['contains', 'Studentship', 'student', false],
    ['is', 'Café', 'cafe', true],
    ['is known', 'anything', '', true],
  ] as const)('%s: “%s” against “%s” is %s', (condition, found, value, holds) =>
    expect(fitOf([rule('jobTitle', condition, value, 1)], { ...nothing, jobTitle: found }).points).toBe(
      Number(holds),
    ),
  );
  it('of lists and numbers', () => {
    const facts = { ...nothing, technologies: ['web shop', 'route planner'], employees: 12 };
    expect(fitOf([rule('technologies', 'is', 'Route planner', 5)], facts).points).toBe(5);
    expect(fitOf([rule('technologies', 'is not', 'web shop', 5)], facts).points).toBe(0);
    expect(fitOf([rule('employees', 'at most', '12', 5)], facts).points).toBe(5);
  });
  it('stays between 0 and 100 whatever the sheet, and the parts add up', () => {
    const any = fc.record({
      field: fc.constantFrom(...(Object.keys(FIT_FIELDS) as FitField[])),
      condition: fc.constantFrom(...FIT_CONDITIONS),
      value: fc.constantFrom('', '5', 'Bakeries', 'x, y'),
      points: fc.integer({ min: -50, max: 50 }),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 8 }), fc.option(fc.string()), (rules, industry) => {
        const fit = fitOf(
          rules.map((rule, at) => ({ ...rule, id: String(at) })),
          { ...nothing, industry, employees: 7 },
        );
        expect(fit.score).toBeGreaterThanOrEqual(0);
        expect(fit.score).toBeLessThanOrEqual(100);
        expect(fit.parts.reduce((sum, part) => sum + part.points, 0)).toBe(fit.points);
      }),
    );
  });
  it('offers only conditions that make sense of a field', () => {
    expect(conditionsOf('employees')).not.toContain('contains');
    expect(conditionsOf('industry')).not.toContain('at least');
  });
});

describe('warmth', () => {
  const now = '2026-11-24T12:00:00.000Z';
  const touch = (kind: Touch['kind'], days: number): Touch => ({
    kind,
    at: new Date(Date.parse(now) - days * 86_400_000).toISOString(),
    words: kind,
  });
  it('halves with each half-life: arithmetic', () => {
    expect([0, 14, 28, 42].map((days) => decayed(32, days, 14))).toEqual([32, 16, 8, 4]);
    expect(decayed(10, 7, 14)).toBeCloseTo(10 / Math.SQRT2);
  });
  it('adds what they did, each listed with what it is worth now, and forgets what is to come', () => {
    const warmth = warmthOf(
      [touch('wrote', 14), touch('asked for a quote', 0), touch('met', -3)],
      USUAL_WARMTH,
      now,
      null,
    );
    expect(warmth.parts.map((part) => [part.kind, part.points])).toEqual([
      ['asked for a quote', 32],
      ['wrote', 7],
    ]);
    expect(warmth.points).toBe(39);
    expect(warmth.score).toBe(Math.round(100 * (1 - Math.exp(-39 / 40))));
  });
  it('cools when our mail was not opened for 30 days', () => {
    const old = [touch('wrote', 40)];
    const mailed = touch('opened', 35).at;
    const [warm, cool] = [warmthOf(old, USUAL_WARMTH, now, null), warmthOf(old, USUAL_WARMTH, now, mailed)];
    expect([warm.cooled, cool.cooled, cool.points]).toEqual([false, true, warm.points / 2]);
    expect(warmthOf([...old, touch('opened', 2)], USUAL_WARMTH, now, mailed).cooled).toBe(false);
  });
  it('takes the house’s own points and half-life', () => {
    const own = { halfLifeDays: 7, points: { wrote: 40 } };
    expect(warmthOf([touch('wrote', 7)], own, now, null).points).toBe(20);
  });
});

interface Case {
  name: string;
  c: number;
  weights: number[];
  intercept: number;
  rows?: number[][];
  outcomes?: number[];
}
// Debian's python3-sklearn on its bundled data sets; fixtures/logistic.py makes the file.
const { cases } = JSON.parse(readFileSync(join(__dirname, 'fixtures/logistic.json'), 'utf8')) as {
  cases: Case[];
};

describe('logistic regression', () => {
  it.each(cases.map((one) => [one.name, one.c, one] as const))(
    'learns what scikit-learn learns: %s, C = %s',
    (name, c, wanted) => {
      const data = cases.find((one) => one.name === name && one.rows);
      const model = trainLogistic(data?.rows ?? [], data?.outcomes ?? [], c);
      expect(model.weights).toHaveLength(wanted.weights.length);
      model.weights.forEach((weight, at) =>
        expect(Math.abs(weight - (wanted.weights[at] ?? NaN))).toBeLessThan(1e-4),
      );
      expect(Math.abs(model.intercept - wanted.intercept)).toBeLessThan(1e-4);
    },
  );
  it('gives the base rate where features tell nothing', () => {
    const model = trainLogistic([[0], [0], [0], [0]], [1, 0, 0, 0], 1);
    expect(predict(model, [0])).toBeCloseTo(0.25, 6);
  });
  it('stands what can be told apart without fail, and refuses nothing to learn from', () => {
    const model = trainLogistic([[-100], [100]], [0, 1], 1000);
    expect(predict(model, [100])).toBeGreaterThan(0.99);
    expect(() => trainLogistic([], [], 1)).toThrow();
  });
});

describe('calibration', () => {
  it('Brier score by the textbook: (0.9, 1), (0.6, 0), (0.1, 0)', () => {
    expect(
      brier([
        { chance: 0.9, outcome: 1 },
        { chance: 0.6, outcome: 0 },
        { chance: 0.1, outcome: 0 },
      ]),
    ).toBeCloseTo((0.01 + 0.36 + 0.01) / 3);
  });
  it('Wilson interval by worked examples', () => {
    // 10 of 20 at z = 1.96 is 0.299 to 0.701; 0 of 10 is 0 to 0.278 (Newcombe 1998, method 3; from memory).
    expect(wilson(10, 20).low).toBeCloseTo(0.299, 3);
    expect(wilson(10, 20).high).toBeCloseTo(0.701, 3);
    expect(wilson(0, 10)).toEqual({ low: 0, high: expect.closeTo(0.278, 3) });
    expect(wilson(0, 0)).toEqual({ low: 0, high: 1 });
  });
  it('puts what was given beside what came', () => {
    const bins = reliability([
      { chance: 0.1, outcome: 0 },
      { chance: 0.15, outcome: 1 },
      { chance: 1, outcome: 1 },
    ]);
    expect(bins.map((bin) => [bin.count, bin.came])).toEqual([
      [2, 0.5],
      [1, 1],
    ]);
    expect(bins[0]?.given).toBeCloseTo(0.125);
  });
});

describe('win chance', () => {
  const facts = (over: Partial<WinFacts> = {}): WinFacts => ({
    fit: 50,
    warmth: 50,
    completeness: 60,
    daysOpen: 5,
    answered: 0.5,
    responseHours: 4,
    hasAmount: true,
    source: 'email',
    stage: '',
    ...over,
  });
  let seed = 7;
  const random = (): number => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
  /** Closed leads of a made-up house where fit and warmth decide, with a known chance for each. */
  const house = (count: number): (Closed & { chance: number })[] =>
    Array.from({ length: count }, (_, at) => {
      const [fit, warmth] = [random() * 100, random() * 100];
      const chance = 1 / (1 + Math.exp(-(0.06 * (fit - 50) + 0.04 * (warmth - 60))));
      const source = random() < 0.5 ? 'email' : 'fair';
      return {
        facts: facts({ fit, warmth, source, daysOpen: random() * 30, responseHours: random() * 48 }),
        won: random() < chance,
        chance,
        at: new Date(Date.UTC(2026, 0, 1) + at * 3_600_000).toISOString(),
      };
    });

  it('is the base rate with its interval while there is too little to learn from', () => {
    const model = trainWinModel(house(20));
    const { chance, base, reasons } = winChance(model, facts());
    expect([model.kind, base?.closed, reasons]).toEqual(['base', 20, []]);
    expect(chance).toBeCloseTo((model.won + 1) / 22);
    expect(winChance(trainWinModel([]), facts()).chance).toBe(0.5);
  });
  it('learns what decides, is calibrated on held-out time, and beats the base rate there', () => {
    const made = house(1500);
    const model = trainWinModel(made);
    expect(model.kind).toBe('learnt');
    expect(model.held?.brier).toBeLessThan((model.held?.baseBrier ?? 0) * 0.8);
    for (const bin of model.held?.bins ?? [])
      if (bin.count >= 30) expect(bin.given).toBeGreaterThan(bin.low - 0.03);
    for (const bin of model.held?.bins ?? [])
      if (bin.count >= 30) expect(bin.given).toBeLessThan(bin.high + 0.03);
    const off = made.map((one) => Math.abs(winChance(model, one.facts).chance - one.chance));
    expect(off.reduce((sum, one) => sum + one, 0) / off.length).toBeLessThan(0.05);
  });
  it('moves at once with a fact, and says in words what moves it', () => {
    const model = trainWinModel(house(800));
    const [cold, warm] = [winChance(model, facts({ warmth: 5 })), winChance(model, facts({ warmth: 95 }))];
    expect(warm.chance).toBeGreaterThan(cold.chance + 0.2);
    expect(warm.reasons.find((reason) => reason.words === 'warmth speaks for it')?.points).toBeGreaterThan(5);
    expect(cold.reasons.find((reason) => reason.words === 'warmth speaks against it')?.points).toBeLessThan(
      -5,
    );
  });
  it('does not claim to know what it cannot: outcomes by chance alone give the base rate', () => {
    const blind = house(300).map((one) => ({ ...one, won: random() < 0.3 }));
    const model = trainWinModel(blind);
    const chances = [facts({ fit: 0 }), facts({ fit: 100 })].map((one) => winChance(model, one).chance);
    expect(Math.abs((chances[0] ?? 0) - (chances[1] ?? 1))).toBeLessThan(0.15);
  });

  // A house that drops what is hopeless early and wins after weeks: those still open after long are won more often, which
  // says nothing against a fresh one. Common practice.
  it('makes sense over the life of a lead: being fresh never speaks against it, nor a word not yet due', () => {
    const closed = house(800).map((one, at): Closed => ({
      ...one,
      facts: { ...one.facts, daysOpen: one.won ? 20 + (at % 40) : at % 6, responseHours: one.won ? 3 : null },
    }));
    const model = trainWinModel(closed);
    expect(model.kind).toBe('learnt');
    const fresh = facts({ daysOpen: 0.01, responseHours: null });
    const reasons = winChance(model, fresh).reasons.map((reason) => reason.words);
    expect(reasons).not.toContain('how long it is open speaks against it');
    expect(reasons).not.toContain('how fast we answered speaks against it');
    // And with every day on which nothing is answered the chance does not rise.
    const chances = [0, 1, 3, 7].map(
      (daysOpen) => winChance(model, facts({ daysOpen, responseHours: null })).chance,
    );
    for (const [at, chance] of chances.entries())
      expect(chance).toBeLessThanOrEqual((chances[at - 1] ?? 1) + 1e-9);
  });
});
