import fc from 'fast-check';
import { gather, type PairSet } from './lookAlikes';

const ROWS = 8;
type Pair = [number, number];
const code = ([a, b]: Pair): number => Math.min(a, b) * ROWS + Math.max(a, b);
const pairs = Array.from({ length: ROWS }, (_, a) =>
  Array.from({ length: a }, (_b, b): Pair => [b, a]),
).flat();

/** A book of a few rows in which each pair has odds of its own. */
function book(odds: ReadonlyMap<number, number>) {
  const logOdds = (a: number, b: number): number => odds.get(code([a, b])) ?? -5;
  const edges = pairs
    .filter((pair) => odds.has(code(pair)))
    .map(([a, b]) => ({ a, b, logOdds: logOdds(a, b) }));
  return { edges, logOdds };
}
const found = (odds: [Pair, number][], apart: Pair[] = []) =>
  gather(book(new Map(odds.map(([pair, value]) => [code(pair), value]))), ROWS, new Set(apart.map(code)));

describe('rows that are likely one record', () => {
  it('make a group, as sure as its least sure pair, the surest group first', () => {
    const groups = found([
      [[0, 1], 2],
      [[2, 3], 9],
      [[3, 4], 8],
      [[2, 4], 8],
    ]);
    expect(groups.map((group) => group.rows)).toEqual([
      [2, 3, 4],
      [0, 1],
    ]);
    expect(groups.map((group) => group.probability > 0.5)).toEqual([true, true]);
  });

  it('that are likelier two than one make none', () => {
    expect(found([[[0, 1], -1]])).toEqual([]);
    expect(found([])).toEqual([]);
  });

  it('that somebody told apart are never put together again, and the others still are', () => {
    expect(found([[[0, 1], 9]], [[0, 1]])).toEqual([]);
    const groups = found(
      [
        [[0, 1], 9],
        [[1, 2], 9],
        [[0, 2], 1],
      ],
      [[0, 2]],
    );
    expect(groups).toHaveLength(1);
    expect(groups[0]?.rows).toHaveLength(2);
    expect(groups[0]?.rows).toContain(1);
  });

  it('of two who were told apart the one for whom less speaks leaves', () => {
    const [group] = found(
      [
        [[0, 1], 9],
        [[1, 2], 3],
        [[0, 2], 9],
        [[0, 3], 9],
        [[1, 3], 9],
        [[2, 3], 3],
      ],
      [[1, 2]],
    );
    expect(group?.rows).toContain(1);
    expect(group?.rows).not.toContain(2);
  });
});

describe('whatever the odds', () => {
  const odds = fc.array(fc.tuple(fc.constantFrom(...pairs), fc.integer({ min: -8, max: 12 })), {
    maxLength: 28,
  });
  const apart = fc.array(fc.constantFrom(...pairs), { maxLength: 6 });

  it('no row is in two groups, none is alone, and no two who were told apart are together', () => {
    fc.assert(
      fc.property(odds, apart, (given, told) => {
        const groups = found(given, told);
        const rows = groups.flatMap((group) => group.rows);
        expect(new Set(rows).size).toBe(rows.length);
        for (const group of groups) {
          expect(group.rows.length).toBeGreaterThan(1);
          expect(group.probability).toBeGreaterThanOrEqual(0.5);
          expect(group.probability).toBeLessThanOrEqual(1);
          for (const [a, b] of told) expect(group.rows.includes(a) && group.rows.includes(b)).toBe(false);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('the order in which pairs come changes nothing', () => {
    fc.assert(
      fc.property(odds, apart, (given, told) => {
        const unique = [...new Map(given.map((pair) => [code(pair[0]), pair])).values()];
        const sets = (list: [Pair, number][]): string[] => found(list, told).map(({ rows }) => rows.join());
        const set: PairSet = new Set(told.map(code));
        expect(set.size).toBeLessThanOrEqual(told.length);
        expect(sets([...unique].reverse()).sort()).toEqual(sets(unique).sort());
      }),
      { numRuns: 200 },
    );
  });
});
