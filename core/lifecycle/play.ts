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

export interface Range {
  month: string;
  low: number;
  middle: number;
  high: number;
  mean: number;
  /** How far the shares below these may be off from 0.1, 0.5 and 0.9; with 95 in 100 sure. */
  error: number;
}
export interface Simulated {
  runs: number;
  seed: number;
  /** How many open deals were played through one by one; the rest together, by their mean and spread. */
  played: number;
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

function rangeOf(month: string, sums: Float64Array, error: number): Range {
  let all = 0;
  for (const sum of sums) all += sum;
  const sorted = sums.slice().sort();
  return {
    month,
    low: Math.round(quantile(sorted, 0.1)),
    middle: Math.round(quantile(sorted, 0.5)),
    high: Math.round(quantile(sorted, 0.9)),
    mean: Math.round(all / sums.length),
    error,
  };
}

/** What many independent deals come to together: mean, variance, and the sum of their third absolute central moments. */
interface Moments {
  mean: number;
  variance: number;
  third: number;
}

/** A month as it is played: what is sure, the deals that are played one by one, and the rest together. */
export interface MonthToPlay {
  month: string;
  sure: number;
  minor: Float64Array;
  chance: Float64Array;
  rest: Moments;
}

/** So many draws are made at most; beyond them only the deals that matter most are played one by one. */
const MOST_DRAWS = 20_000_000;

const spread = (deal: ForecastDeal): number => deal.chance * (1 - deal.chance) * deal.minor * deal.minor;

/**
 * Parts the deals of each month into those that are played one by one, the ones with the widest spread, and the rest.
 * @param mostDraws how many draws all runs together may take
 */
export function prepareMonths(
  deals: readonly ForecastDeal[],
  runs: number,
  mostDraws = MOST_DRAWS,
): MonthToPlay[] {
  const open = deals.filter((deal) => !deal.won && deal.minor > 0 && deal.chance > 0);
  const most = Math.floor(mostDraws / runs);
  const spreads = Float64Array.from(open, spread).sort();
  const least = open.length > most ? (spreads[open.length - most] ?? 0) : -1;
  const months = new Map<string, { sure: number; own: ForecastDeal[]; rest: Moments }>();
  const monthOfDeal = (deal: ForecastDeal): { sure: number; own: ForecastDeal[]; rest: Moments } => {
    const known = months.get(deal.month) ?? { sure: 0, own: [], rest: { mean: 0, variance: 0, third: 0 } };
    months.set(deal.month, known);
    return known;
  };
  for (const deal of deals) monthOfDeal(deal).sure += deal.won ? deal.minor : 0;
  for (const deal of open) {
    const { own, rest } = monthOfDeal(deal);
    if (spread(deal) > least) {
      own.push(deal);
      continue;
    }
    const { chance, minor } = deal;
    rest.mean += chance * minor;
    rest.variance += spread(deal);
    rest.third += chance * (1 - chance) * (chance ** 2 + (1 - chance) ** 2) * minor ** 3;
  }
  return [...months]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([month, { sure, own, rest }]) => ({
      month,
      sure,
      minor: Float64Array.from(own, (deal) => deal.minor),
      chance: Float64Array.from(own, (deal) => deal.chance),
      rest,
    }));
}

/** Berry–Esseen for summands that differ: no share is off by more than this times Σρ/σ³ (Shevtsova 2010). */
const BERRY_ESSEEN = 0.56;

/** How far a share of the range may be off: from taking the rest as normal, and from the number of runs (Massart 1990). */
function errorOf({ variance, third }: Moments, runs: number): number {
  const rest = variance > 0 ? (BERRY_ESSEEN * third) / variance ** 1.5 : 0;
  return rest + Math.sqrt(Math.log(2 / 0.05) / (2 * runs));
}

/** Two independent normal deviates of two numbers from the stream (Box & Muller 1958). */
function normals(a: number, b: number): [number, number] {
  const radius = Math.sqrt(-2 * Math.log((a + 1) / (WHOLE + 1)));
  const angle = (2 * Math.PI * b) / WHOLE;
  return [radius * Math.cos(angle), radius * Math.sin(angle)];
}

/** Plays months through; see `simulate`. */
export function playMonths(
  months: readonly MonthToPlay[],
  { runs, seed }: { runs: number; seed: number },
): Simulated {
  const draw = stream(seed);
  const total = new Float64Array(runs);
  const all: Moments = { mean: 0, variance: 0, third: 0 };
  const ranges = months.map(({ month, sure, minor, chance, rest }) => {
    const below = chance.map((one) => one * WHOLE);
    const sums = new Float64Array(runs);
    const block = new Uint32Array(minor.length);
    const pair = new Uint32Array(2);
    const deviation = Math.sqrt(rest.variance);
    for (let run = 0; run < runs; run++) {
      draw(block);
      let sum = sure + rest.mean;
      for (let at = 0; at < block.length; at++)
        sum += Number((block[at] ?? 0) < (below[at] ?? 0)) * (minor[at] ?? 0);
      if (deviation) {
        draw(pair);
        sum += deviation * normals(pair[0] ?? 0, pair[1] ?? 0)[0];
      }
      sums[run] = sum;
      total[run] = (total[run] ?? 0) + sum;
    }
    all.variance += rest.variance;
    all.third += rest.third;
    return rangeOf(month, sums, errorOf(rest, runs));
  });
  return {
    runs,
    seed,
    played: months.reduce((count, { minor }) => count + minor.length, 0),
    months: ranges,
    total: rangeOf('', total, errorOf(all, runs)),
  };
}

/**
 * Plays the forecast through: in each run each open deal is won with its chance or not. The same seed gives the same
 * answer. Deals are taken as independent of each other. Where there are very many, those with the widest spread are
 * played one by one and the rest come to a normal sum; how far that may be off is said.
 * @returns the 10th, 50th and 90th percentile and the mean of each month and of all, minor units
 */
export const simulate = (
  deals: readonly ForecastDeal[],
  { runs, seed, mostDraws }: { runs: number; seed: number; mostDraws?: number },
): Simulated => playMonths(prepareMonths(deals, runs, mostDraws), { runs, seed });
