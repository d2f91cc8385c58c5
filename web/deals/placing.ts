import type { DealRow } from '@emporikon/contract/deals';

export interface Placed {
  deal: DealRow;
  /** Along the axis, 0 (came today) to 1 (49 days or more). */
  share: number;
  row: number;
  /** Longer in its stage than twice the typical time of won deals. */
  isLate: boolean;
}

const LAST_DAY = 49;
/** A card is as wide as about ten days of the axis at the usual width. */
const CARD_DAYS = 10;

/**
 * Puts deals along the axis of days in their stage, each in the first row where it covers no other. Those of one day keep
 * their order, so that further ones, which have been there longer, move none of the first.
 */
export function placeDeals(deals: readonly DealRow[], typicalDays: number): Placed[] {
  const ends: number[] = [];
  return [...deals]
    .sort((a, b) => a.days - b.days)
    .map((deal) => {
      const at = Math.min(deal.days, LAST_DAY);
      let row = ends.findIndex((end) => end <= at);
      if (row < 0) row = ends.length;
      ends[row] = at + CARD_DAYS;
      return { deal, share: at / LAST_DAY, row, isLate: deal.days > typicalDays * 2 };
    });
}
