/** One deal as a forecast sees it. */
export interface ForecastDeal {
  id: string;
  ownerId: string;
  /** In minor units of the house currency. */
  minor: number;
  /** 0 to 1; 1 for a won one. */
  chance: number;
  won: boolean;
  /** The month it is expected in, or was won in: YYYY-MM. */
  month: string;
}

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

export interface Range {
  month: string;
  low: number;
  middle: number;
  high: number;
  mean: number;
}
export interface Simulated {
  runs: number;
  seed: number;
  months: Range[];
  /** Of all months together. */
  total: Range;
}

const WHOLE = 4_294_967_296;

/**
 * A stream of 32-bit numbers, written a block at a time: xoshiro128** (Blackman & Vigna 2018), its state filled by
 * SplitMix32. The state stands in locals while a block is written, which is what makes it fast.
 */
function stream(seed: number): (block: Uint32Array) => void {
  let state = seed >>> 0;
  const fill = (): number => {
    state = (state + 0x9e3779b9) >>> 0;
    let z = state;
    z = Math.imul(z ^ (z >>> 16), 0x21f0aaad);
    z = Math.imul(z ^ (z >>> 15), 0x735a2d97);
    return z ^ (z >>> 15);
  };
  const kept = Int32Array.from({ length: 4 }, fill);
  return (block) => {
    let [a = 0, b = 0, c = 0, d = 0] = kept;
    for (let at = 0; at < block.length; at++) {
      const five = Math.imul(b, 5);
      block[at] = Math.imul((five << 7) | (five >>> 25), 9);
      const t = b << 9;
      c ^= a;
      d ^= b;
      b ^= c;
      a ^= d;
      c ^= t;
      d = (d << 11) | (d >>> 21);
    }
    kept.set([a, b, c, d]);
  };
}

/** The value below which the given share of sorted ones lies, by the nearest rank. */
const quantile = (sorted: Float64Array, share: number): number =>
  sorted[Math.max(0, Math.ceil(share * sorted.length) - 1)] ?? 0;

function rangeOf(month: string, sums: Float64Array): Range {
  let all = 0;
  for (const sum of sums) all += sum;
  const sorted = sums.slice().sort();
  return {
    month,
    low: quantile(sorted, 0.1),
    middle: quantile(sorted, 0.5),
    high: quantile(sorted, 0.9),
    mean: Math.round(all / sums.length),
  };
}

/**
 * Plays the forecast through: in each run each open deal is won with its chance or not. The same seed gives the same
 * answer. Deals are taken as independent of each other.
 * @returns the 10th, 50th and 90th percentile and the mean of each month and of all, minor units
 */
export function simulate(
  deals: readonly ForecastDeal[],
  { runs, seed }: { runs: number; seed: number },
): Simulated {
  const months = [...new Set(deals.map((deal) => deal.month))].sort();
  const draw = stream(seed);
  const total = new Float64Array(runs);
  const ranges = months.map((month) => {
    const own = deals.filter((deal) => deal.month === month);
    const sure = own.reduce((sum, deal) => sum + (deal.won ? deal.minor : 0), 0);
    const open = own.filter((deal) => !deal.won && deal.minor > 0 && deal.chance > 0);
    const below = Float64Array.from(open, (deal) => deal.chance * WHOLE);
    const minor = Float64Array.from(open, (deal) => deal.minor);
    const sums = new Float64Array(runs);
    const block = new Uint32Array(open.length);
    for (let run = 0; run < runs; run++) {
      draw(block);
      let sum = sure;
      for (let at = 0; at < block.length; at++)
        sum += Number((block[at] ?? 0) < (below[at] ?? 0)) * (minor[at] ?? 0);
      sums[run] = sum;
      total[run] = (total[run] ?? 0) + sum;
    }
    return rangeOf(month, sums);
  });
  return { runs, seed, months: ranges, total: rangeOf('', total) };
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
