import fc from 'fast-check';
import {
  areaOfBox,
  areaProblem,
  boxAround,
  boxOf,
  cornersOf,
  EARTH_KM,
  isInside,
  kmBetween,
  nearProblem,
  positionOf,
  type Position,
} from './area';

/** As exact as the gazetteer: about a metre. */
const lon = fc.integer({ min: -18_000_000, max: 18_000_000 }).map((n) => n / 1e5);
const lat = fc.integer({ min: -8_900_000, max: 8_900_000 }).map((n) => n / 1e5);
const SQUARE = cornersOf([0, 0, 10, 0, 10, 10, 0, 10]);

describe('inside an area', () => {
  it.each<[Position, boolean]>([
    [[5, 5], true],
    [[0, 0], true],
    [[10, 4], true],
    [[10.001, 4], false],
    [[-0.001, 5], false],
    [[5, 11], false],
  ])('%p in a square: %p', (at, expected) => {
    expect(isInside(at, SQUARE)).toBe(expected);
    // The corners may go around either way.
    expect(isInside(at, [...SQUARE].reverse())).toBe(expected);
  });
  it('with a bay, the bay is outside; where its line crosses itself, what it goes around is inside', () => {
    const bay = cornersOf([0, 0, 10, 0, 10, 10, 5, 2, 0, 10]);
    expect([isInside([5, 6], bay), isInside([1, 5], bay), isInside([5, 1], bay)]).toEqual([
      false,
      true,
      true,
    ]);
    const star = cornersOf([0, 10, 6, -8, -10, 3, 10, 3, -6, -8]);
    expect(isInside([0, 0], star)).toBe(true);
  });
  it('across the 180th meridian, both sides of it', () => {
    const fiji = cornersOf(areaOfBox([177, -20, 183, -15]));
    expect([
      isInside([178.4, -18.1], fiji),
      isInside([-179.5, -17], fiji),
      isInside([-170, -17], fiji),
    ]).toEqual([true, true, false]);
  });
  it('of any box: just what its bounds say', () =>
    fc.assert(
      fc.property(lon, lat, lon, lat, lon, lat, (a, b, c, d, x, y) => {
        const [west, east] = [Math.min(a, c), Math.max(a, c)];
        const [south, north] = [Math.min(b, d), Math.max(b, d)];
        fc.pre(east > west && north > south);
        const inBounds = x >= west && x <= east && y >= south && y <= north;
        expect(isInside([x, y], cornersOf(areaOfBox([west, south, east, north])))).toBe(inBounds);
      }),
    ));
});

describe('distances', () => {
  // A quarter and a half of a great circle; and one degree of a meridian, 111.195 km on this sphere.
  it('are those of a sphere', () => {
    expect(kmBetween([0, 0], [90, 0])).toBeCloseTo((EARTH_KM * Math.PI) / 2, 6);
    expect(kmBetween([0, 90], [77, -90])).toBeCloseTo(EARTH_KM * Math.PI, 6);
    expect(kmBetween([12, 40], [12, 41])).toBeCloseTo(111.195, 3);
    // Sinnott's formula keeps small distances exact, where the law of cosines loses them.
    expect(kmBetween([0, 0], [0.00001, 0])).toBeCloseTo(0.0011119, 6);
    // The other side of the 180th meridian is near.
    expect(kmBetween([179.9, 0], [-179.9, 0])).toBeCloseTo(0.2 * 111.195, 2);
  });
  it('everything within some km is in the box around', () =>
    fc.assert(
      fc.property(
        lon,
        lat,
        fc.double({ min: 0.1, max: 15_000, noNaN: true }),
        lon,
        lat,
        (x, y, km, ox, oy) => {
          fc.pre(kmBetween([x, y], [ox, oy]) <= km);
          const [west, south, east, north] = boxAround([x, y], km);
          expect(oy >= south && oy <= north).toBe(true);
          expect([ox, ox + 360, ox - 360].some((one) => one >= west && one <= east)).toBe(true);
        },
      ),
    ));
});

it('an area that is none is said to be none', () => {
  expect(areaProblem([0, 0, 1, 0, 1, 1])).toBeNull();
  expect(areaProblem(areaOfBox([170, -20, 190, 0]))).toBeNull();
  expect(areaProblem([0, 0, 1, 0, 1])).toMatch(/corners/);
  expect(areaProblem([0, 0, 1, 0])).toMatch(/corners/);
  expect(areaProblem([0, 0, 1, 0, 2, 0])).toMatch(/not a line/);
  expect(areaProblem([0, 0, 1, 0, 1, 91])).toMatch(/latitudes/);
  expect(areaProblem([0, 0, 400, 0, 1, 1])).toMatch(/longitudes/);
  expect(areaProblem([0, 0, 1, 0, 1, NaN])).toMatch(/longitudes and latitudes/);
  expect(areaProblem([0, 0, '1', 0, 1, 1])).toMatch(/longitudes and latitudes/);
  expect(areaProblem(Array.from({ length: 402 }, (_, at) => (at * 7) % 80))).toMatch(/at most 200/);
  expect([
    nearProblem([0, 0, 5]),
    nearProblem([0, 0]),
    nearProblem([0, 0, 0]),
    nearProblem([181, 0, 5]),
  ]).toEqual([null, ...Array<unknown>(3).fill(expect.stringMatching(/kilometres/))]);
});

it('a place is written as in a geo URI: latitude first', () => {
  expect(positionOf('38.72,-9.14')).toEqual([-9.14, 38.72]);
  expect([positionOf(''), positionOf('x,1'), positionOf('5')]).toEqual([null, null, null]);
  expect(boxOf(SQUARE)).toEqual([0, 0, 10, 10]);
});
