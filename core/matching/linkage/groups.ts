/** A pair of rows with the natural logarithm of its odds to be of one person. */
export interface Edge {
  a: number;
  b: number;
  logOdds: number;
}

/** No single pair speaks louder than this for or against joining two groups. */
const LOUDEST = 8;
/** Of two large groups this many pairs are asked. */
const ASKED = 64;

/**
 * What it says for a pair that its group was not parted: measured on crowds of our own making (`npm run bench match`), where
 * pairs in groups were right more often than they said.
 */
const WITHSTOOD = 0.3;
/** It makes nobody quite sure: beyond these odds (0.988) a pair speaks for itself. */
const QUITE_SURE = 4.4;
const withstood = (odds: number): number => Math.max(odds, Math.min(odds + WITHSTOOD, QUITE_SURE));
/** How sure what was learnt is on crowds that were not learnt from: a little less than it says (Platt 1999, on ten such crowds). */
const STEADY = 0.93;

/** A pair that its groups part is no likelier than this, in natural logarithm of the odds (0.67). */
const APART = 1.5;

const clamp = (odds: number): number => Math.max(-LOUDEST, Math.min(LOUDEST, odds));

/**
 * Rows gathered into groups of one person each, surest pairs first. Two groups are joined only if their rows on the
 * whole speak for it, so that a chain of likenesses does not join strangers at its ends.
 * @param edges pairs likelier than not
 * @param logOdds of any two rows
 * @returns for each row that is in a group its group, as the list of its rows
 */
export function groupUp(
  edges: readonly Edge[],
  logOdds: (a: number, b: number) => number,
): Map<number, number[]> {
  const groups = new Map<number, number[]>();
  const of = (row: number): number[] => {
    const there = groups.get(row);
    if (there) return there;
    const fresh = [row];
    groups.set(row, fresh);
    return fresh;
  };
  const sorted = [...edges].sort((x, y) => y.logOdds - x.logOdds || x.a - y.a || x.b - y.b);
  for (const { a, b, logOdds: odds } of sorted) {
    const [left, right] = [of(a), of(b)];
    if (left === right) continue;
    if (left.length + right.length > 2) {
      let sum = clamp(odds);
      let count = 1;
      for (const one of left)
        for (const other of right) {
          if ((one === a && other === b) || count >= ASKED) continue;
          sum += clamp(logOdds(Math.min(one, other), Math.max(one, other)));
          count++;
        }
      if (sum <= 0) continue;
    }
    const [few, many] = left.length < right.length ? [left, right] : [right, left];
    for (const row of few) {
      many.push(row);
      groups.set(row, many);
    }
  }
  return groups;
}

/**
 * What the groups make of the pairs: a pair inside a group is likelier than not even where the two rows have little in
 * common, as sure as the chain that joins them allows; a pair across two groups is not.
 */
export function settlePairs(edges: readonly Edge[], logOdds: (a: number, b: number) => number): Edge[] {
  const likely = edges.filter((edge) => edge.logOdds >= 0);
  const groups = groupUp(likely, logOdds);
  const settled: Edge[] = [];
  const own = new Map<number, Map<number, number>>();
  const remember = (a: number, b: number, odds: number): void => {
    const mine = own.get(a) ?? new Map<number, number>();
    mine.set(b, odds);
    own.set(a, mine);
  };
  for (const one of edges) {
    const together = groups.get(one.a) !== undefined && groups.get(one.a) === groups.get(one.b);
    if (together) remember(Math.min(one.a, one.b), Math.max(one.a, one.b), one.logOdds);
    else settled.push({ ...one, logOdds: Math.min(one.logOdds, APART) });
  }
  for (const rows of new Set(groups.values())) {
    if (rows.length < 2) continue;
    const sorted = [...rows].sort((x, y) => x - y);
    const odds = sorted.map((a) =>
      sorted.map((b) =>
        a < b
          ? (own.get(a)?.get(b) ?? logOdds(a, b))
          : a > b
            ? (own.get(b)?.get(a) ?? logOdds(b, a))
            : Infinity,
      ),
    );
    const best = widest(odds);
    for (let i = 0; i < sorted.length; i++)
      for (let j = i + 1; j < sorted.length; j++) {
        const mine = odds[i]?.[j] ?? 0;
        const chain = best[i]?.[j] ?? 0;
        settled.push({
          a: sorted[i] as number,
          b: sorted[j] as number,
          logOdds: withstood(
            mine >= 0 ? Math.max(mine, (mine + chain) / 2) : Math.max(0, (clamp(mine) + chain) / 2),
          ),
        });
      }
  }
  return settled.map((one) => ({ ...one, logOdds: STEADY * one.logOdds }));
}

/** For each two rows the weakest link of the strongest chain between them (Floyd and Warshall, with minimum and maximum). */
function widest(odds: readonly number[][]): number[][] {
  const best = odds.map((row) => [...row]);
  if (odds.length > 60) return best;
  for (let via = 0; via < best.length; via++)
    for (let i = 0; i < best.length; i++)
      for (let j = 0; j < best.length; j++) {
        const through = Math.min(best[i]?.[via] ?? 0, best[via]?.[j] ?? 0);
        const row = best[i];
        if (row && through > (row[j] ?? 0)) row[j] = through;
      }
  return best;
}
