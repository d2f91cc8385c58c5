import { tidy } from '../people/text';
import { flatten } from '../reading/intents/dateWords';
import { findDone, type Done, type EntryKind } from '../reading/intents/moves';
import { ABBREVIATED, OF_A_MONTH } from '../reading/call/clauses';
import { isOutcome, outcomeOf, type CallOutcome } from '../reading/intents/outcome';
import { readMoney } from '../reading/intents/money';
import { alternatives, type Kind } from '../words/compile';
import { readQuantities } from '../reading/intents/quantity';
import { findMoments } from '../reading/intents/when';
import type { Intent } from '../reading/types';
import type { FreeDays } from '../calendar/workingDays';
import { composeMove, toDoOf, type ComposedMove } from './composedMove';
import type { Colleague } from './mentions';
import { behindLeadingDay } from './dayWords';
import { findPast, type PastMoment } from './past';

export interface ComposerContext {
  /** ISO 8601. */
  now: string;
  /** IANA name of the writer's zone. */
  zone: string;
  userId: string;
  /** ISO 4217 code of a sum that names no currency: that of the deal the line is about. */
  currency: string;
  users: readonly Colleague[];
  /** Days on which the writer does not work; weekends, where left out. */
  free?: FreeDays | undefined;
}

export interface ComposerReading {
  nextMove: ComposedMove | null;
  entry: {
    kind: EntryKind;
    side: 'ours' | 'theirs' | 'within';
    headline: string;
    /** When it took place, ISO 8601; null for now. */
    at: string | null;
    /** How a call, a meeting or a visit went; null for anything else. */
    outcome: CallOutcome | null;
  } | null;
  /** A sum named in the line, for the open deal. Minor units. */
  amount: { minor: number; currency: string } | null;
  wants: { count: number; of: string } | null;
  /** Stretches of the line that were understood. */
  lit: { start: number; end: number }[];
}

const LONGEST = 2000;
/** A clause says within so many characters what it is about. */
const LONGEST_READ = 600;

interface Clause {
  text: string;
  /** What parts it from the next clause. */
  end: ',' | '.';
  start: number;
}

const NEW_SUBJECT_KINDS: readonly Kind[] = ['they', 'newSubject', 'saysNow', 'standing'];
const NEW_SUBJECT = `\\s+(?:${NEW_SUBJECT_KINDS.map(alternatives).join('|')})(?![\\p{L}\\p{N}])`;
/** Sentences, and within one the point where somebody else becomes the subject: "call her Thursday, she wants ten". */
const CLAUSE = new RegExp(
  `(?:(?!,${NEW_SUBJECT})[^.;!?]|(?<=\\b(?:${ABBREVIATED.toLowerCase()}))\\.|(?<=\\d)\\.(?!${OF_A_MONTH})|[.;!?](?!\\s|$))+(?:[.;!?]|,(?=${NEW_SUBJECT}))?`,
  'gu',
);

/** What a clause says took place, and when, whichever of the two stands first. */
function doneIn(
  text: string,
  { now, zone }: ComposerContext,
): { done: Done; when: PastMoment | null } | null {
  const when = findPast(text, now, zone);
  const atOnce = findDone(text);
  const from = atOnce ? 0 : behindLeadingDay(text, when);
  const done = atOnce ?? findDone(text.slice(from));
  return (
    done && {
      done: { ...done, verb: { start: done.verb.start + from, end: done.verb.end + from } },
      when,
    }
  );
}

/** Behind more commas than this a line is a list, and of a thing to do a day stands near its verb. */
const [MOST_COMMAS, LONGEST_MOVE] = [8, 200];

/** "Left a voicemail, try again tomorrow": after what is over, or before a day, a verb begins what is to come. */
function splitPast(clause: Clause, context: ComposerContext): Clause[] {
  if (toDoOf(clause.text.slice(0, LONGEST_READ), context)) return [clause];
  for (const comma of [...clause.text.matchAll(/,\s+/g)].slice(0, MOST_COMMAS)) {
    const from = comma.index + comma[0].length;
    const [before, rest] = [clause.text.slice(0, comma.index), clause.text.slice(from)];
    const near = rest.slice(0, LONGEST_MOVE);
    if (!toDoOf(near, context)) continue;
    const isDated = findMoments(near, { reference: context.now, zone: context.zone }).length > 0;
    if (isDated || isOutcome(before) || doneIn(before, context))
      return [
        { ...clause, text: before, end: '.' },
        { ...clause, text: rest, start: clause.start + from },
      ];
  }
  return [clause];
}

const clausesOf = (line: string, context: ComposerContext): Clause[] => {
  const clauses: Clause[] = [];
  for (const match of flatten(line).matchAll(CLAUSE)) {
    const words = line.slice(match.index, match.index + match[0].length);
    const lead = /^\s*/.exec(words)?.[0].length ?? 0;
    const text = words.trim().replace(/[.;,]$/, '');
    if (text)
      clauses.push(
        ...splitPast({ text, start: match.index + lead, end: match[0].endsWith(',') ? ',' : '.' }, context),
      );
  }
  return clauses;
};

const sentence = (clause: Clause): { text: string; start: number; at: (position: number) => number } => ({
  text: clause.text,
  start: clause.start,
  at: (position) => clause.start + position,
});

/** What a colleague did is ours. */
const sideOf = ({ side, subject }: Done, users: readonly Colleague[]): Done['side'] =>
  subject !== null && users.some(({ name }) => [name, name.split(' ')[0]].includes(subject)) ? 'ours' : side;

/**
 * Reads one line of plain words into what it will save: a next move, something that happened, a note, a sum.
 * `call Thursday 11am about the quote` is a next move; `called her, budget is 40k` is a call and a sum.
 * @param line what was typed; line breaks count as spaces, at most 2000 characters are read
 */
export function readComposerLine(line: string, context: ComposerContext): ComposerReading {
  const text = line.replace(/[\r\n\u2028\u2029\0]+/g, ' ').slice(0, LONGEST);
  const reading: ComposerReading = { nextMove: null, entry: null, amount: null, wants: null, lit: [] };
  const said: Clause[] = [];
  for (const clause of clausesOf(text, context)) {
    const start = clause.text.slice(0, LONGEST_READ);
    const [moment] = findMoments(start, { reference: context.now, zone: context.zone });
    const taken = moment ? [moment] : [];
    const clear = (intent: Intent): boolean =>
      !taken.some(
        (one) => clause.start + one.start < intent.span.end && intent.span.start < clause.start + one.end,
      );
    const money = readMoney(sentence(clause), { currency: context.currency, bare: 'a sum' }).find(clear);
    const quantity = readQuantities(sentence(clause)).find(clear);
    if (money?.kind === 'money')
      reading.amount ??= { minor: money.value.minor, currency: money.value.currency };
    if (quantity?.kind === 'quantity') reading.wants ??= quantity.value;
    for (const intent of [money, quantity])
      if (intent) reading.lit.push({ start: intent.span.start, end: intent.span.end });
    const toDo = reading.nextMove ? null : toDoOf(start, context);
    if (toDo) {
      const { move, lit } = composeMove(clause.text, toDo, context);
      reading.nextMove = move;
      for (const { start, end } of lit)
        reading.lit.push({ start: clause.start + start, end: clause.start + end });
      continue;
    }
    const past = said.length === 0 ? doneIn(start, context) : null;
    if (past) {
      const { done, when: named } = past;
      const outcome = outcomeOf(done.kind, text);
      // Of what was moved the day that is named is the new one.
      const when = outcome === 'moved' ? null : named;
      reading.entry = {
        kind: done.kind,
        side: sideOf(done, context.users),
        headline: '',
        at: when?.at ?? null,
        outcome,
      };
      for (const span of [when, done.verb])
        if (span) reading.lit.push({ start: clause.start + span.start, end: clause.start + span.end });
    } else if (said.length === 0 && isOutcome(clause.text))
      reading.entry = {
        kind: 'call',
        side: 'ours',
        headline: '',
        at: null,
        outcome: outcomeOf('call', text),
      };
    said.push(clause);
  }
  if (said.length) {
    const headline = tidy(
      said
        .map(({ text: words, end }, index) => (index < said.length - 1 ? `${words}${end}` : words))
        .join(' '),
    );
    reading.entry = {
      ...(reading.entry ?? { kind: 'note', side: 'within', at: null, outcome: null }),
      headline: headline.charAt(0).toUpperCase() + headline.slice(1),
    };
  }
  reading.lit.sort((a, b) => a.start - b.start);
  return reading;
}
