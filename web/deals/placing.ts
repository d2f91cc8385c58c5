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
/** Pixels. */
const CARD = 184;
const GAP = 6;
/** The width of the axis at 1280 pixels, before it was measured. */
const USUAL_AXIS = 1062;

/** How many days of the axis a card covers with the gap after it; on a narrow axis all of them. */
const daysOfCard = (axis: number): number =>
  axis <= CARD * 2 ? LAST_DAY + 1 : ((CARD + GAP) * LAST_DAY) / (axis - CARD);

/**
 * Puts deals along the axis of days in their stage, each in the first row where it covers no other. Those of one day keep
 * their order, so that further ones, which have been there longer, move none of the first.
 * @param axis the width of the axis with the last card, in pixels
 */
export function placeDeals(deals: readonly DealRow[], typicalDays: number, axis = USUAL_AXIS): Placed[] {
  const cardDays = daysOfCard(axis);
  const ends: number[] = [];
  return [...deals]
    .sort((a, b) => a.days - b.days)
    .map((deal) => {
      const at = Math.min(deal.days, LAST_DAY);
      let row = ends.findIndex((end) => end <= at);
      if (row < 0) row = ends.length;
      ends[row] = at + cardDays;
      return { deal, share: at / LAST_DAY, row, isLate: deal.days > typicalDays * 2 };
    });
}
