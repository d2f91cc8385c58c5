/** Whether a source is asked: it is `open` while it is left alone after failing too often. */
export interface Breaker {
  /** Failures in a row. */
  failures: number;
  /** ISO 8601; null while it is asked as usual. */
  openUntil: string | null;
}

export const CLOSED: Breaker = { failures: 0, openUntil: null };
const FAILS_BEFORE_REST = 5;
const REST_MS = 30_000;
const LONGEST_REST_MS = 15 * 60_000;

/** Whether a question may go to the source now; after its rest one may, and its outcome decides. */
export const mayAsk = (breaker: Breaker, now: string): boolean =>
  breaker.openUntil === null || Date.parse(now) >= Date.parse(breaker.openUntil);

/** The breaker after a question: an answer closes it, the fifth failure in a row opens it, each further one for twice as long. */
export function afterQuestion(breaker: Breaker, answered: boolean, now: string): Breaker {
  if (answered) return CLOSED;
  const failures = breaker.failures + 1;
  if (failures < FAILS_BEFORE_REST) return { failures, openUntil: null };
  const rest = Math.min(LONGEST_REST_MS, REST_MS * 2 ** (failures - FAILS_BEFORE_REST));
  return { failures, openUntil: new Date(Date.parse(now) + rest).toISOString() };
}

const WAITS = { first: 250, longest: 8000 };

/**
 * How long to wait before trying again: twice as long each time, half of it by chance, so that many askers do not come
 * back at once; never less than the source asks for. (Exponential back-off with jitter, common practice.)
 * @param tries how many failed, from 1
 * @param random 0 to 1
 * @param asked what the source asks for (Retry-After), ms
 * @param waits the first wait and the longest, ms
 */
export function backOff(
  tries: number,
  random: number,
  asked: number | null,
  waits: { first: number; longest: number } = WAITS,
): number {
  const most = Math.min(waits.longest, waits.first * 2 ** (tries - 1));
  return Math.max(asked ?? 0, most / 2 + (most / 2) * random);
}
