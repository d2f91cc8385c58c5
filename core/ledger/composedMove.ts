import { DateTime } from 'luxon';
import { firstDue, type Repeat } from '../calendar/repeat';
import { findRepeat } from '../calendar/repeatWords';
import { MONDAY_TO_FRIDAY, nextWorkingDay, workingDayFrom, type FreeDays } from '../calendar/workingDays';
import { tidy } from '../people/text';
import { findToDo, type MoveKind, type ToDo } from '../reading/intents/moves';
import { findMoments, type Moment } from '../reading/intents/when';
import { behindLeadingDay, LEADING, withPreposition } from './dayWords';
import { mentionsIn, type Colleague } from './mentions';

/** A task as a line of plain words asks for it. */
export interface ComposedMove {
  title: string;
  kind: MoveKind;
  /** ISO 8601. */
  dueAt: string;
  allDay: boolean;
  assumedDate: boolean;
  assigneeId: string;
  repeat: Repeat | null;
  isUrgent: boolean;
}

interface Around {
  /** ISO 8601. */
  now: string;
  zone: string;
  userId: string;
  users: readonly Colleague[];
  free?: FreeDays | undefined;
}

const BARE: Record<MoveKind, string> = {
  call: 'Call',
  mail: 'Write',
  meeting: 'Meet',
  visit: 'Visit',
  task: 'To do',
};
/** "task: …", "task for Joss: …", "task @joss: …": who does it stands before what is to be done. */
const GIVEN = /^(?:task|to-?do)(?:\s+(?:for\s+)?@?([\p{L}\p{N}._-]+))?\s*:\s*/iu;
/** "@joss fix the price list". */
const CALLED = /^@[\p{L}\p{N}][\p{L}\p{N}._-]*[,:]?\s+/u;
const FOR_SOMEBODY = /\s(?:for|by)\s+@?([\p{L}\p{N}._-]+)\s*$/iu;
const URGENT = /\s*(?:\b(?:urgent(?:ly)?|high priority|top priority|asap)\b|!{1,3}\s*$)/i;

const BARE_TIME = /^(?:at\s+)?\d{1,2}(?:[:.h]\d{2})?\s?(?:am|pm|a\.m\.|p\.m\.|h|uhr|o[’']clock)?$/i;

/** What a clause asks to be done, whoever is asked; null where it asks for nothing. */
export function toDoOf(
  text: string,
  { users, now, zone }: Pick<Around, 'users' | 'now' | 'zone'>,
): ToDo | null {
  const called = CALLED.exec(text)?.[0] ?? '';
  const named = called && mentionsIn(called, users).length ? called.length : 0;
  const rest = text.slice(named);
  const atOnce = findToDo(rest);
  const from =
    named +
    (atOnce ? 0 : behindLeadingDay(rest, findMoments(rest.slice(0, LEADING), { reference: now, zone })[0]));
  const found = atOnce ?? findToDo(text.slice(from));
  const shifted = ({ start, end }: { start: number; end: number }) => ({
    start: start + from,
    end: end + from,
  });
  return found && { kind: found.kind, lead: shifted(found.lead), verb: shifted(found.verb) };
}

/** Blanks a stretch, so that what is behind it stays where it is. */
const blank = (text: string, { start, end }: { start: number; end: number }): string =>
  text.slice(0, start) + ' '.repeat(end - start) + text.slice(end);

/** Who is to do it, and the words without their name; null for whoever writes. */
function assigneeOf(
  words: string,
  users: readonly Colleague[],
): { words: string; assigneeId: string | null } {
  const byName = (name = ''): string | null =>
    mentionsIn(`@${name}`, users)[0]?.id ??
    users.find((user) => user.name.split(' ')[0]?.toLowerCase() === name.toLowerCase())?.id ??
    null;
  const given = GIVEN.exec(words);
  const giving = byName(given?.[1]);
  if (given && (!given[1] || giving)) {
    const rest = words.replace(GIVEN, '');
    return giving ? { words: rest, assigneeId: giving } : assigneeOf(rest, users);
  }
  const called = CALLED.exec(words)?.[0];
  const [first] = called ? mentionsIn(called, users) : [];
  if (called && first) return { words: words.slice(called.length), assigneeId: first.id };
  const named = FOR_SOMEBODY.exec(words);
  const namedId = byName(named?.[1]);
  if (named && namedId) return { words: words.replace(FOR_SOMEBODY, ''), assigneeId: namedId };
  const [mentioned] = mentionsIn(words, users);
  return mentioned && mentioned.end >= words.trimEnd().length
    ? { words: words.slice(0, mentioned.start), assigneeId: mentioned.id }
    : { words, assigneeId: null };
}

/** When a moment is; where it is a time alone, on the day of the repeat, or on a working day from today on. */
function timeOn(moment: Moment, text: string, day: DateTime | null, now: DateTime, free: FreeDays): string {
  const at = DateTime.fromISO(moment.at, { zone: now.zoneName ?? 'utc' });
  if (moment.allDay || !BARE_TIME.test(text.slice(moment.start, moment.end).trim())) return moment.at;
  const on = day ?? (at.hasSame(now, 'day') ? at : workingDayFrom(at, free));
  const time = on.set({ hour: at.hour, minute: at.minute });
  return time.toISO({ suppressMilliseconds: true }) ?? moment.at;
}

/**
 * The task that a clause asks for: "task for Joss: fix the price list every first Monday". Without a day it is due on the
 * next working day, or on the first day of its repeat.
 * @param toDo what `toDoOf` found in the clause
 * @returns the task, and the stretches of the clause that were understood
 */
export function composeMove(
  text: string,
  toDo: ToDo,
  context: Around,
): { move: ComposedMove; lit: { start: number; end: number }[] } {
  const lit = [toDo.verb];
  let rest = blank(text, toDo.lead);
  const take = <Span extends { start: number; end: number }>(span: Span | null | undefined): Span | null => {
    if (!span) return null;
    lit.push({ start: span.start, end: span.end });
    rest = blank(rest, withPreposition(rest, span));
    return span;
  };
  const repeat = take(findRepeat(rest));
  const moment = take(findMoments(rest, { reference: context.now, zone: context.zone })[0]);
  const urgent = URGENT.exec(rest);
  if (urgent) rest = blank(rest, { start: urgent.index, end: urgent.index + urgent[0].length });
  const { words, assigneeId } = assigneeOf(rest.trim().replace(/[,\s]+$/, ''), context.users);
  // "call 1/12": where the time is all that was said, the kind of move says the rest.
  const title =
    tidy(words)
      .replace(/\s(?:on|at|by|before|until|from|starting)(?=\s(?:about|with|to|for)\b|$)/i, '')
      .replace(/[,\s]+$/, '') || BARE[toDo.kind];
  const now = DateTime.fromISO(context.now, { zone: context.zone });
  const free = context.free ?? MONDAY_TO_FRIDAY;
  const day = repeat ? firstDue(repeat.repeat, now, free) : nextWorkingDay(now, free);
  const at = moment && timeOn(moment, text, repeat ? day : null, now, free);
  const move = {
    title: title.charAt(0).toUpperCase() + title.slice(1),
    kind: toDo.kind,
    dueAt: at ?? day.toISO({ suppressMilliseconds: true }) ?? context.now,
    allDay: moment ? moment.allDay : true,
    assumedDate: !moment && !repeat,
    assigneeId: assigneeId ?? context.userId,
    repeat: repeat?.repeat ?? null,
    isUrgent: urgent !== null,
  };
  return { move, lit };
}
