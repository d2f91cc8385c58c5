import { dealChance, measureStages, notKnown, usualChance, type DealWay } from './stages';

const way = (won: boolean, ...stays: [string, number][]): DealWay => ({
  won,
  stays: stays.map(([stageId, days]) => ({ stageId, days })),
});

describe('stages measured', () => {
  const ways = [
    ...Array.from({ length: 9 }, (_, at) => way(at < 3, ['first', at + 1], ['second', 10])),
    way(false, ['first', 40]),
  ];
  const measured = measureStages(ways);
  it('have the share of those that came to them, with its interval', () => {
    expect(measured.get('first')).toMatchObject({ closed: 10, won: 3, share: 0.3 });
    expect(measured.get('second')).toMatchObject({ closed: 9, won: 3 });
    // Wilson for 3 of 10, by the formula of Wilson 1927, worked by hand: 0.108 to 0.603.
    expect(measured.get('first')?.low).toBeCloseTo(0.1078, 3);
    expect(measured.get('first')?.high).toBeCloseTo(0.6032, 3);
  });
  it('have the median stay of won deals once five are known, with what went back added up', () => {
    expect(measured.get('first')?.typicalDays).toBeNull();
    const five = [1, 2, 3, 8].map((days) => way(true, ['a', days]));
    const back = way(true, ['a', 4], ['b', 1], ['a', 2]);
    expect(measureStages([...five, back, way(false, ['a', 90])]).get('a')?.typicalDays).toBe(3);
  });
  it('count only where the pipeline goes by history and there is enough of it', () => {
    const open = { kind: 'open' as const, probability: 55 };
    expect(usualChance(open, 'measured', measured.get('first'))).toBe(30);
    expect(usualChance(open, 'measured', measured.get('second'))).toBe(55);
    expect(usualChance(open, 'given', measured.get('first'))).toBe(55);
    expect(usualChance({ kind: 'won', probability: 7 }, 'given', undefined)).toBe(100);
    expect(usualChance({ kind: 'lost', probability: 7 }, 'measured', undefined)).toBe(0);
  });
});

it('what is not known is asked for in one order', () =>
  expect(notKnown(['payer', 'amount', 'company'], new Set(['company']))).toEqual(['amount', 'payer']));

describe('the chance of a deal', () => {
  it('multiplies the odds of lead and stage', () => {
    // Worked by hand: lead 1:1, stage 1:1, base 1:3, so 3:1.
    expect(dealChance(0.5, 0.25, 0.5)).toBeCloseTo(0.75, 12);
    expect(dealChance(0.25, 0.25, 0.6)).toBeCloseTo(0.6, 12);
  });
  it('is the stage’s without a lead, and certain at the ends', () =>
    expect([dealChance(null, 0.3, 0.55), dealChance(0.9, 0.3, 1), dealChance(0.9, 0.3, 0)]).toEqual([
      0.55, 1, 0,
    ]));
});
