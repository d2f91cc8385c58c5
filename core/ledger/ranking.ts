/** Why somebody or something wants a rep today. */
export type CauseKind = 'turn' | 'task' | 'new' | 'case' | 'stuck' | 'quiet';

/** One thing that wants a rep today. */
export interface Cause {
  kind: CauseKind;
  /** What it is about: causes of the same person, or of the same deal without one, are one line. */
  about: string;
  /** Since when it waits, or when it was due or what was promised is; ISO 8601. */
  since: string;
  /** A task with a time of its own, ISO 8601. */
  at: string | null;
  /** The expected value at stake: its sum times its chance, in whole units of the organisation's currency. */
  stake: number;
  /** How long they usually wait for us, in hours. */
  usualWait: number | null;
  /** We promised it, or they asked for it by a day. */
  isPromised: boolean;
  isImportant: boolean;
  priority: 'high' | 'normal' | 'low';
  /** How many times the typical time it has been stuck, or the rhythm it has been quiet. */
  times: number;
}

/**
 * What waiting costs, in points. Nothing is learned here; the weights are set by hand, so that the order can be explained
 * and argued about (common practice: an answer owed before a task, a task before what is merely slow).
 */
export const WEIGHTS = {
  kind: { turn: 30, task: 24, new: 28, case: 28, stuck: 12, quiet: 8 },
  /** What was promised for a case is due by now, and for each further day; at most. */
  promise: { broken: 16, each: 2, most: 30 },
  /** For each doubling of the wait, counted in what they usually wait; at most. */
  wait: { each: 6, most: 18 },
  /** For each day a task is overdue; at most. */
  overdue: { each: 2, most: 14 },
  /** For each further time the typical time or the rhythm has passed; at most. */
  times: { each: 4, most: 12 },
  /** For each factor of ten of the expected value above a hundred; at most. */
  stake: { each: 6, most: 24 },
  /** An answer owed for longer than sixty days: hardly anybody waits for it any more. */
  stale: -24,
  promised: 10,
  important: 10,
  priority: { high: 10, normal: 0, low: -8 },
  /** An appointment that begins within two hours, or has begun. */
  appointment: 60,
  /** Of what else is the case with the same person or deal. */
  besides: 0.3,
} as const;

/** One weight that counted, and how much. */
export interface Part {
  words: string;
  points: number;
}

const HOUR_MS = 3_600_000;
const USUAL_WAIT = 24;
const NEAR_HOURS = 2;
const STALE_HOURS = 60 * 24;
const KIND_WORDS: Record<CauseKind, string> = {
  turn: 'It is our turn',
  task: 'A task is due',
  new: 'Nobody has spoken to them',
  case: 'They wait for help',
  stuck: 'The deal is stuck',
  quiet: 'They are going quiet',
};

const capped = (points: number, { most }: { most: number }): number => Math.max(0, Math.min(most, points));

/**
 * What waiting costs, in points, with each weight that counted.
 * @param now ISO 8601
 */
export function costOf(cause: Cause, now: string): { points: number; parts: Part[] } {
  const hours = Math.max(0, (Date.parse(now) - Date.parse(cause.since)) / HOUR_MS);
  const parts: Part[] = [{ words: KIND_WORDS[cause.kind], points: WEIGHTS.kind[cause.kind] }];
  const add = (words: string, points: number): void => {
    if (Math.round(points)) parts.push({ words, points });
  };
  if (cause.kind === 'turn' || cause.kind === 'new')
    add(
      'How long they have waited, against what they usually wait',
      capped(
        WEIGHTS.wait.each * Math.log2(1 + hours / Math.max(1, cause.usualWait ?? USUAL_WAIT)),
        WEIGHTS.wait,
      ),
    );
  if (cause.kind === 'task')
    add('Days overdue', capped(WEIGHTS.overdue.each * Math.floor(hours / 24), WEIGHTS.overdue));
  if (cause.kind === 'case' && cause.since <= now)
    add(
      'The promise is broken',
      capped(WEIGHTS.promise.broken + (WEIGHTS.promise.each * hours) / 24, WEIGHTS.promise),
    );
  if (cause.kind === 'stuck' || cause.kind === 'quiet')
    add('How long beyond the usual', capped(WEIGHTS.times.each * (cause.times - 1), WEIGHTS.times));
  add(
    'Expected value at stake',
    cause.stake > 0 ? capped(WEIGHTS.stake.each * Math.log10(1 + cause.stake / 100), WEIGHTS.stake) : 0,
  );
  if (cause.kind === 'turn' && hours > STALE_HOURS) add('Owed for more than sixty days', WEIGHTS.stale);
  if (cause.isPromised) add('Promised', WEIGHTS.promised);
  if (cause.isImportant) add('Marked as important', WEIGHTS.important);
  add(`Priority ${cause.priority}`, WEIGHTS.priority[cause.priority]);
  const untilStart = cause.at ? (Date.parse(cause.at) - Date.parse(now)) / HOUR_MS : null;
  if (untilStart !== null && untilStart <= NEAR_HOURS)
    add('It has a time, and that is now', WEIGHTS.appointment);
  return { points: parts.reduce((sum, { points }) => sum + points, 0), parts };
}

/** A line of the round: what wants one most about somebody or something, and what else does. */
export interface RankedLine<Item extends Cause> {
  first: Item;
  besides: Item[];
  points: number;
  parts: Part[];
}

/**
 * The round in the order of what waiting costs. Tasks and cases of one person are lines of their own, because each is done by itself;
 * anything else about the same person or deal is one line with its dearest reason first.
 */
export function rankCauses<Item extends Cause & { id: string }>(
  causes: readonly Item[],
  now: string,
): RankedLine<Item>[] {
  const lines = new Map<string, Item[]>();
  for (const cause of causes) {
    const key = cause.kind === 'task' || cause.kind === 'case' ? `${cause.kind} ${cause.id}` : cause.about;
    lines.set(key, [...(lines.get(key) ?? []), cause]);
  }
  return [...lines.values()]
    .flatMap((group) => {
      const costs = group
        .map((cause) => ({ cause, ...costOf(cause, now) }))
        .sort((a, b) => b.points - a.points || a.cause.id.localeCompare(b.cause.id));
      const [first, ...besides] = costs;
      if (!first) return [];
      const more = besides.reduce((sum, { points }) => sum + points * WEIGHTS.besides, 0);
      return [
        {
          first: first.cause,
          besides: besides.map(({ cause }) => cause),
          points: first.points + more,
          parts: [...first.parts, ...(more ? [{ words: 'What else is the case', points: more }] : [])],
        },
      ];
    })
    .sort(
      (a, b) =>
        b.points - a.points ||
        a.first.since.localeCompare(b.first.since) ||
        a.first.id.localeCompare(b.first.id),
    );
}

/** How many minutes each kind of work usually takes (common practice). */
const MINUTES = {
  call: 10,
  mail: 8,
  meeting: 45,
  visit: 90,
  task: 15,
  turn: 8,
  new: 10,
  case: 15,
  stuck: 10,
  quiet: 10,
} as const;
export const minutesFor = (kind: keyof typeof MINUTES): number => MINUTES[kind];
