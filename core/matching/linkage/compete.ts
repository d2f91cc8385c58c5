import type { Edge } from './groups';

/** Of the partners of a row, so many are asked. */
const ASKED = 12;
/** A partner of lesser odds, as a natural logarithm, is no rival. */
const FAINT = -2;
const LOUDEST = 12;

/**
 * Pairs weighed against each other: where another row fits as well and contradicts the first, neither is sure. Of a row `a` and two
 * partners `b` and `c` it may be that only `b`, only `c` or both are the same as it, with odds of `b`, of `c`, and of the product of
 * both by how little the two contradict each other; what is left for `b` is its share of that.
 * @param edges pairs that may be of one person, each once
 * @param contradiction how much speaks against any two rows in itself, as a natural logarithm of odds
 */
export function compete(edges: readonly Edge[], contradiction: (a: number, b: number) => number): Edge[] {
  const partners = new Map<number, { row: number; odds: number }[]>();
  const note = (row: number, other: number, odds: number): void => {
    const known = partners.get(row);
    if (known) known.push({ row: other, odds });
    else partners.set(row, [{ row: other, odds }]);
  };
  for (const { a, b, logOdds: odds } of edges) {
    note(a, b, odds);
    note(b, a, odds);
  }
  for (const list of partners.values()) list.sort((x, y) => y.odds - x.odds);
  /** What is left for `than` beside the strongest partner of `row` that contradicts it, as a natural logarithm. */
  const left = (row: number, than: number): number => {
    let least = 0;
    for (const { row: other, odds } of (partners.get(row) ?? []).slice(0, ASKED)) {
      if (odds < FAINT) break;
      if (other === than) continue;
      const rival = Math.exp(Math.min(LOUDEST, odds));
      const both = rival * Math.exp(-contradiction(Math.min(other, than), Math.max(other, than)));
      least = Math.min(least, Math.log((1 + both) / (1 + rival)));
    }
    return least;
  };
  return edges.map(({ a, b, logOdds: odds }) => ({
    a,
    b,
    logOdds: odds < FAINT ? odds : odds + Math.min(left(a, b), left(b, a)),
  }));
}
