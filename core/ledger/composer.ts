import { tidy } from '../people/text';
import { DONE, TO_DO, type EntryKind } from '../reading/intents/moves';
import { readMoney } from '../reading/intents/money';
import { readQuantities } from '../reading/intents/quantity';
import { findMoments } from '../reading/intents/when';
import type { Intent } from '../reading/types';
import type { FreeDays } from '../calendar/workingDays';
import { composeMove, toDoOf, type ComposedMove } from './composedMove';
import type { Colleague } from './mentions';
import { findPast } from './past';

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

/** How a call, a meeting or a visit went, as reps note it. */
export type CallOutcome = 'spoke' | 'no answer' | 'voicemail' | 'moved';

const VOICEMAIL = /\b(?:voice ?mail|left (?:a )?message|answering machine|mailbox full)\b/i;
const NO_ANSWER =
  /\b(?:no (?:answer|reply|response|luck|one (?:there|in))|nobody (?:there|in|answered)|did ?n[o']?t (?:answer|pick up|reach)|not reached|could ?n[o']?t reach|unreachable|engaged|line busy|was busy|rang out|not in|missed)\b/i;

const MOVED =
  /\b(?:(?:meeting|visit|call|appointment|we|they|s?he) (?:was |were |has been |have been |got )?(?:moved|postponed|cancelled|called off|put off|rescheduled)|(?:moved|postponed|rescheduled) (?:it|the (?:meeting|visit|call))?\s*(?:to|until|till))\b/i;
const ABSENT =
  /\b(?:no[- ]show|nobody (?:there|in|came)|did ?n[o']?t (?:come|turn up|show up)|was not (?:there|in)|wasn[’']t (?:there|in)|closed)\b/i;

/** How it went, by the words of the note; null where there is nothing of which it could be said. */
function outcomeOf(kind: EntryKind, text: string): CallOutcome | null {
  if (kind === 'call')
    return VOICEMAIL.test(text)
      ? 'voicemail'
      : NO_ANSWER.test(text)
        ? 'no answer'
        : MOVED.test(text)
          ? 'moved'
          : 'spoke';
  if (kind !== 'meeting' && kind !== 'visit') return null;
  return MOVED.test(text) ? 'moved' : ABSENT.test(text) ? 'no answer' : 'spoke';
}

const LONGEST = 2000;

interface Clause {
  text: string;
  /** What parts it from the next clause. */
  end: ',' | '.';
  start: number;
}

/** Sentences, and within one the point where somebody else becomes the subject: "call her Thursday, she wants ten". */
const CLAUSE =
  /(?:(?!,\s+(?:s?he|they|we|it|wants?|needs?|budget|decides?)\b)[^.;!?]|[.;!?](?!\s|$))+(?:[.;!?]|,(?=\s+(?:s?he|they|we|it|wants?|needs?|budget|decides?)\b))?/giu;

/** "Left a voicemail, try again tomorrow": after what is over, a verb begins what is to come. */
function splitPast(clause: Clause): Clause[] {
  if (!DONE.some(([pattern]) => pattern.test(clause.text))) return [clause];
  for (const comma of clause.text.matchAll(/,\s+(?:then\s+)?/g)) {
    const from = comma.index + comma[0].length;
    const rest = clause.text.slice(from);
    if (TO_DO.some(([pattern]) => pattern.test(rest)))
      return [
        { ...clause, text: clause.text.slice(0, comma.index), end: '.' },
        { ...clause, text: rest, start: clause.start + from },
      ];
  }
  return [clause];
}

const clausesOf = (line: string): Clause[] => {
  const clauses: Clause[] = [];
  for (const match of line.matchAll(CLAUSE)) {
    const lead = /^\s*/.exec(match[0])?.[0].length ?? 0;
    const text = match[0].trim().replace(/[.;,]$/, '');
    if (text)
      clauses.push(
        ...splitPast({ text, start: match.index + lead, end: match[0].endsWith(',') ? ',' : '.' }),
      );
  }
  return clauses;
};

const sentence = (clause: Clause): { text: string; start: number; at: (position: number) => number } => ({
  text: clause.text,
  start: clause.start,
  at: (position) => clause.start + position,
});

/**
 * Reads one line of plain words into what it will save: a next move, something that happened, a note, a sum.
 * `call Thursday 11am about the quote` is a next move; `called her, budget is 40k` is a call and a sum.
 * @param line what was typed; line breaks count as spaces, at most 2000 characters are read
 */
export function readComposerLine(line: string, context: ComposerContext): ComposerReading {
  const text = line.replace(/[\r\n\u2028\u2029\0]+/g, ' ').slice(0, LONGEST);
  const reading: ComposerReading = { nextMove: null, entry: null, amount: null, wants: null, lit: [] };
  const said: Clause[] = [];
  for (const clause of clausesOf(text)) {
    const [moment] = findMoments(clause.text, { reference: context.now, zone: context.zone });
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
    const toDo = reading.nextMove ? null : toDoOf(clause.text, context.users);
    if (toDo) {
      const { move, lit } = composeMove(clause.text, toDo, context);
      reading.nextMove = move;
      for (const { start, end } of lit)
        reading.lit.push({ start: clause.start + start, end: clause.start + end });
      continue;
    }
    const past = DONE.find(([pattern]) => pattern.test(clause.text));
    if (past && said.length === 0) {
      const outcome = outcomeOf(past[1], text);
      // Of what was moved the day that is named is the new one.
      const when = outcome === 'moved' ? null : findPast(clause.text, context.now, context.zone);
      reading.entry = {
        kind: past[1],
        side: past[2],
        headline: '',
        at: when?.at ?? null,
        outcome,
      };
      if (when) reading.lit.push({ start: clause.start + when.start, end: clause.start + when.end });
      reading.lit.push({
        start: clause.start,
        end: clause.start + (past[0].exec(clause.text)?.[0].length ?? 0),
      });
    }
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
