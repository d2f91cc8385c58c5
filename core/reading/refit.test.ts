import fc from 'fast-check';
import { binned, refit, refitted, type Decided } from './refit';

const times = (count: number, confidence: number, isRight: boolean): Decided[] =>
  Array.from({ length: count }, () => ({ confidence, isRight }));

describe('confidences fitted to what people decided', () => {
  it('go down where the reader was surer than it was right, and leave others', () => {
    const steps = refit([...times(200, 0.92, true), ...times(200, 0.92, false), ...times(300, 0.6, true)]);
    // (200 + 10 · 0.92) / 410 is below (300 + 10 · 0.6) / 310: what is given more cannot be right less, so both are one.
    expect(steps).toEqual([[0.6, Math.round((1000 * (300 + 6 + 200 + 9.2)) / 720) / 1000]]);
    expect(refitted(steps, 0.92)).toBe(refitted(steps, 0.6));
    expect(refitted(steps, 0.3)).toBe(0.3);
  });
  it('stay as they are where the reader was right as often as it said', () => {
    const steps = refit([
      ...times(90, 0.9, true),
      ...times(10, 0.9, false),
      ...times(50, 0.5, true),
      ...times(50, 0.5, false),
    ]);
    expect(steps).toEqual([
      [0.5, 0.5],
      [0.9, 0.9],
    ]);
  });
  it('are nobody’s business before twenty decisions', () => {
    expect(refit(times(19, 0.9, false))).toEqual([]);
    expect(refitted([], 0.42)).toBe(0.42);
  });
  it('are not turned over by a handful of refusals', () => {
    const [[, share] = [0, 0]] = refit([...times(17, 0.95, true), ...times(3, 0.95, false)]);
    expect(share).toBeCloseTo((17 + 9.5) / 30, 3);
  });
  it('rise, and stay between nought and one, whatever was decided', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ confidence: fc.double({ min: 0, max: 1, noNaN: true }), isRight: fc.boolean() }),
          { maxLength: 400 },
        ),
        (decided) => {
          const shares = refit(decided).map(([, share]) => share);
          expect(shares).toEqual([...shares].sort((a, b) => a - b));
          expect(shares.every((share) => share >= 0 && share <= 1)).toBe(true);
          expect(binned(decided).reduce((sum, bin) => sum + bin.decided, 0)).toBe(decided.length);
        },
      ),
    );
  });
});

it('claims are counted by tenths of the confidence they were shown with', () => {
  expect(
    binned([...times(3, 0.95, true), ...times(1, 0.9, false), ...times(2, 1, true), ...times(1, 0.3, false)]),
  ).toEqual([
    { from: 0.3, right: 0, decided: 1 },
    { from: 0.9, right: 5, decided: 6 },
  ]);
});
