import { simulate, type ForecastDeal } from './play';

export interface ForecastCell {
  month: string;
  ownerId: string;
  deals: number;
  wonMinor: number;
  committedMinor: number;
  weightedMinor: number;
  bestMinor: number;
}

/** An open deal counts as committed from this chance on. */
export const COMMITTED_FROM = 0.75;

/**
 * The forecast of each month and owner. Won deals count in all three. Committed: with the open ones that are likely
 * (from `COMMITTED_FROM` on) in full. Weighted: with each open one by its chance. Best: with all open ones in full.
 */
export function forecastCells(deals: readonly ForecastDeal[]): ForecastCell[] {
  const cells = new Map<string, ForecastCell>();
  for (const deal of deals) {
    const key = `${deal.month} ${deal.ownerId}`;
    const cell = cells.get(key) ?? {
      month: deal.month,
      ownerId: deal.ownerId,
      deals: 0,
      wonMinor: 0,
      committedMinor: 0,
      weightedMinor: 0,
      bestMinor: 0,
    };
    const isSure = deal.won || deal.chance >= COMMITTED_FROM;
    cell.deals += 1;
    cell.wonMinor += deal.won ? deal.minor : 0;
    cell.committedMinor += isSure ? deal.minor : 0;
    cell.weightedMinor += deal.won ? deal.minor : deal.minor * deal.chance;
    cell.bestMinor += deal.minor;
    cells.set(key, cell);
  }
  return [...cells.values()]
    .map((cell) => ({ ...cell, weightedMinor: Math.round(cell.weightedMinor) }))
    .sort((a, b) => (a.month + a.ownerId < b.month + b.ownerId ? -1 : 1));
}

/** The month a deal is forecast in: that of its expected day, this one when that has passed, else that of `fallback`. */
export function monthOf(expectedClose: string | null, today: string, fallback: string): string {
  const day = expectedClose ?? fallback;
  return (day < today ? today : day).slice(0, 7);
}

export interface BackTest {
  month: string;
  /** What the forecast of the month's first day said. */
  committedMinor: number;
  weightedMinor: number;
  bestMinor: number;
  low: number;
  high: number;
  /** What was won in the month, and the part of it that stood in the pipeline on its first day. */
  wonMinor: number;
  seenMinor: number;
  isWithin: boolean;
}

/** A past month's forecast held against what came of the deals that stood in the pipeline when it began. */
export function backTest(
  month: string,
  deals: readonly ForecastDeal[],
  came: { wonMinor: number; seenMinor: number },
  options: { runs: number; seed: number },
): BackTest {
  const own = deals.filter((deal) => deal.month === month);
  const cells = forecastCells(own);
  const sum = (key: 'committedMinor' | 'weightedMinor' | 'bestMinor'): number =>
    cells.reduce((all, cell) => all + cell[key], 0);
  const { low, high } = simulate(own, options).total;
  return {
    month,
    committedMinor: sum('committedMinor'),
    weightedMinor: sum('weightedMinor'),
    bestMinor: sum('bestMinor'),
    low,
    high,
    ...came,
    isWithin: came.seenMinor >= low && came.seenMinor <= high,
  };
}
