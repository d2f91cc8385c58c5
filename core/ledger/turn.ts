export type Side = 'theirs' | 'ours' | 'within';
export type Turn = 'ours' | 'theirs' | 'nobody';

export interface TurnEntry {
  side: Side;
  kind: string;
  /** ISO 8601. */
  at: string;
  /** What they ask in it, shortest first; empty when nothing. */
  asks?: readonly string[];
}

export interface TurnState {
  turn: Turn;
  /** When the word that decides it was said; null when nothing was. */
  since: string | null;
  /** Why, in words without the date: "they asked to send the quote". */
  because: string;
}

const SPOKEN = new Set(['call', 'meeting']);

/**
 * Who owes the next word, from the last thing said between us and them. A call or meeting settles both sides; notes and
 * changes of our own do not count.
 */
export function readTurn(entries: readonly TurnEntry[]): TurnState {
  const last = entries.filter((entry) => entry.side !== 'within').sort((a, b) => b.at.localeCompare(a.at))[0];
  if (!last) return { turn: 'nobody', since: null, because: 'nothing said yet' };
  if (SPOKEN.has(last.kind)) return { turn: 'nobody', since: last.at, because: 'last spoke' };
  if (last.side === 'ours') return { turn: 'theirs', since: last.at, because: 'we wrote' };
  const ask = last.asks?.[0];
  return { turn: 'ours', since: last.at, because: ask ? `they asked: ${ask}` : 'they wrote' };
}
