import type { DealRow } from '@emporikon/contract/deals';
import fc from 'fast-check';
import { placeDeals } from './placing';

const deal = (id: string, days: number): DealRow => ({ id, days }) as DealRow;
const days = fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 120 });

it('no card covers another of its row, however wide the axis is', () => {
  fc.assert(
    fc.property(days, fc.integer({ min: 200, max: 3000 }), (given, axis) => {
      const placed = placeDeals(
        given.map((day, at) => deal(String(at), day)),
        14,
        axis,
      );
      for (const row of new Set(placed.map((card) => card.row))) {
        const lefts = placed.filter((card) => card.row === row).map((card) => card.share * (axis - 184));
        for (let at = 1; at < lefts.length; at++)
          expect((lefts[at] ?? 0) - (lefts[at - 1] ?? 0)).toBeGreaterThan(184);
      }
    }),
  );
});

it('further cards, which have been there longer, move none of the first', () => {
  fc.assert(
    fc.property(days, fc.integer({ min: 0, max: 120 }), (given, first) => {
      const all = given.sort((a, b) => a - b).map((day, at) => deal(String(at), day));
      const [few, more] = [placeDeals(all.slice(0, first), 14), placeDeals(all, 14)];
      expect(more.slice(0, few.length)).toEqual(few);
    }),
  );
});

it('a deal is late after twice the typical time, and stands at the end of the axis from seven weeks on', () => {
  const [fresh, due, late, old] = placeDeals(
    [deal('a', 0), deal('b', 28), deal('c', 29), deal('d', 400)],
    14,
  );
  expect([fresh?.isLate, due?.isLate, late?.isLate]).toEqual([false, false, true]);
  expect([fresh?.share, old?.share]).toEqual([0, 1]);
});
