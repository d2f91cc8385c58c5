import { DateTime } from 'luxon';
import { nextWorkingDay, workingDayUntil, type FreeDays } from '../calendar/workingDays';
import { tidy } from '../people/text';
import type { Intent } from '../reading/types';
import type { MoveKind } from '../reading/intents/moves';

export interface ProposedMove {
  title: string;
  kind: MoveKind;
  dueAt: string;
  allDay: boolean;
}

const KINDS: readonly [RegExp, MoveKind][] = [
  [/\b(?:call|ring|phone|talk|speak)\b/i, 'call'],
  [/\b(?:visit|come by|drop by)\b/i, 'visit'],
  [/\b(?:meet|demonstrat|try|test ride|lunch)\b/i, 'meeting'],
  [/\b(?:send|quote|write|mail|reply|price|offer|brochure)\b/i, 'mail'],
];
const LONGEST = 80;
/** From here on the reader is sure that they turn to us, and do not only say what they wish for. */
const DIRECT = 0.9;
const TAIL = /\s+(?:by|before|until|on)\s+\S+(?:\s+\S+)?$/i;

/** Drops a date from a line of words, with the word that leads up to it. */
function without(words: string, date: string): string {
  const at = words.indexOf(date);
  if (at < 0) return words;
  const before = words
    .slice(0, at)
    .replace(
      /[\s,]+(?:by|before|until|till|on|for|bis|avant|até|antes del?|voor|entro)?(?:\s+(?:the|dem|den|le|la|o|a|el|de|het))?\s*$/i,
      '',
    );
  return tidy(`${before} ${words.slice(at + date.length)}`).replace(/ (?=[,.;])/g, '') || words;
}

const TURNED: Record<string, string> = {
  us: 'them',
  me: 'them',
  our: 'their',
  my: 'their',
  we: 'they',
  i: 'they',
};

/** What they ask, said by us: "send us a quote" is "send them a quote". */
const fromOurSide = (words: string): string =>
  words.replace(/\b(?:us|me|our|my|we|I)\b(?!\.)/g, (word) => TURNED[word.toLowerCase()] ?? word);

/**
 * The next move a message suggests: what they ask of us, the working day before it is due; an appointment at its own
 * time; to a mere wish an answer on the next working day, whenever it is wished for. Days are days of `zone` (IANA).
 * @param now ISO 8601
 */
export function proposeMove(
  intents: readonly Pick<Intent, 'kind' | 'value' | 'text' | 'confidence'>[],
  now: string,
  zone: string,
  free?: FreeDays,
): ProposedMove | null {
  const at = DateTime.fromISO(now, { zone });
  const asks = intents.filter((intent): intent is Extract<Intent, { kind: 'ask' }> => intent.kind === 'ask');
  const direct = asks.filter((ask) => ask.confidence >= DIRECT);
  const ask = (direct.length ? direct : asks).reduce<(typeof asks)[number] | undefined>(
    (top, one) => (!top || (one.value.due ?? '~') < (top.value.due ?? '~') ? one : top),
    undefined,
  );
  if (!ask) return null;
  const dates = intents.filter((intent) => intent.kind === 'date');
  const what = fromOurSide(
    dates
      .reduce((words, { text }) => without(words, text), ask.value.what)
      .replace(TAIL, (tail) => (/\d|day|week|tomorrow/i.test(tail) ? '' : tail)),
  );
  const isWish = ask.confidence < DIRECT;
  const words = isWish ? `Answer: ${what}` : what;
  const title = words.length > LONGEST ? `${words.slice(0, LONGEST - 1)}…` : words;
  const kind = KINDS.find(([pattern]) => pattern.test(ask.text))?.[1] ?? 'mail';
  const named = ask.value.due ? DateTime.fromISO(ask.value.due, { setZone: true }) : null;
  const timed = named !== null && (named.hour !== 0 || named.minute !== 0);
  const due = timed || !isWish ? named : null;
  const soonest = nextWorkingDay(at, free);
  let day = due
    ? workingDayUntil(DateTime.fromISO(due.toISODate() ?? '', { zone }).minus({ days: timed ? 0 : 1 }), free)
    : soonest;
  if (timed && due) day = due;
  else if (day < at.startOf('day')) day = at.startOf('day');
  const iso = (timed ? day : day.startOf('day')).toISO({ suppressMilliseconds: true });
  return iso
    ? { title: title.charAt(0).toUpperCase() + title.slice(1), kind, dueAt: iso, allDay: !timed }
    : null;
}

/** A task that a message asks for, with the sentence that does. */
export interface AskedMove extends ProposedMove {
  asked: string;
}

const MOST_PROPOSED = 5;

/** Every task that a message asks of us, each by itself with its sentence; what is only wished for where nothing else is. */
export function proposeMoves(
  intents: readonly Pick<Intent, 'kind' | 'value' | 'text' | 'confidence'>[],
  now: string,
  zone: string,
  free?: FreeDays,
): AskedMove[] {
  const asks = intents.filter(({ kind }) => kind === 'ask');
  const dates = intents.filter(({ kind }) => kind === 'date');
  const direct = asks.filter(({ confidence }) => confidence >= DIRECT);
  const moves = (direct.length ? direct : asks.slice(0, 1)).flatMap((ask) => {
    const move = proposeMove([ask, ...dates], now, zone, free);
    return move ? [{ ...move, asked: ask.text }] : [];
  });
  const once = new Map(moves.map((move) => [move.title, move]));
  return [...once.values()].slice(0, MOST_PROPOSED);
}
