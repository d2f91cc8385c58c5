import { UNNAMED_DEAL } from '../lifecycle/conversion';
import { DateTime } from 'luxon';
import { tidy } from '../people/text';
import type { Clause } from '../reading/call/clauses';
import { readNote, type NoteOptions } from '../reading/call/read';
import { isLedIn } from '../reading/call/who';
import { flatten } from '../reading/intents/dateWords';
import { findToDo, moveKindOf, type MoveKind } from '../reading/intents/moves';
import { findMoments, type Moment } from '../reading/intents/when';
import type { Claim, Intent } from '../reading/types';
import { alternatives } from '../words/compile';
import { behindLeadingDay, LEADING, withPreposition } from './dayWords';
import { nextWorkingDay } from '../calendar/workingDays';

export type SheetPart = 'person' | 'background' | 'said' | 'move' | 'deal';

export interface SheetMove {
  title: string;
  kind: MoveKind;
  dueAt: string;
  /** Where a time from and to was said. */
  endAt: string | null;
  allDay: boolean;
  /** Whether no day was named and the next working day was taken. */
  assumedDate: boolean;
  /** The words it came from. */
  from: string;
}

export interface SheetReading {
  /** Facts for fields, a number as it was written; empty where nothing was said. */
  person: Record<'fullName' | 'jobTitle' | 'companyName' | 'email' | 'phone' | 'address', string>;
  /** What stays true and belongs into the notes. */
  background: string;
  /** What was said, for the dated history. */
  said: string;
  moves: SheetMove[];
  deal: {
    title: string;
    amountMinor: number | null;
    currency: string;
    quantity: number | null;
    expectedClose: string | null;
  } | null;
  /** Which stretch of the note went where. */
  lit: { start: number; end: number; part: SheetPart }[];
}

const SUBJECT = `(?:${alternatives('they')}|it|the (?:shop|bakery|firm|company)|(?:her|his|their|ihre?|seine?|son|sa|su|seu|sua|il suo|la sua|zijn|haar|hennes|hans) [\\p{L}]+)`;
/** What is so and stays so, in contrast to what was said in this talk. */
const STANDING = new RegExp(
  `^(?:(?:and|but|also|und|aber|et|mais|y|pero|e|mas|ma|en|maar|og|och|men) )?(?:${SUBJECT}\\s+|s?he(?=['’]))?(?:${alternatives('standing')})(?![\\p{L}\\p{N}])`,
  'u',
);
const SAYS_NOW = new RegExp(`(?<![\\p{L}\\p{N}])(?:${alternatives('saysNow')})(?![\\p{L}\\p{N}])`, 'u');

const isStanding = (text: string): boolean => {
  const flat = flatten(text);
  return STANDING.test(flat) && !SAYS_NOW.test(flat);
};

const PROMISE_LEAD =
  /^(?:and |then |also )?(?:(?:i|we)(?:'ll| will| shall| promised to|'m going to| am going to)|promised (?:him|her|them) (?:to |a |an |the )?|to do:?|todo:?|next:?|action:?|pls|please)\s*/i;
const RANGE =
  /(\d{1,2})(?:[:.h](\d\d))?\s?(am|pm|h|uhr|uur)?\s?(?:-|–|to|until|till|bis|à|a|às|tot|til|alle(?: ore)?)\s?(\d{1,2})(?:[:.h](\d\d))?\s?(am|pm)?(?!\d)/i;

/** Where "11-12" or "2pm to 3.30pm" beside a moment ends; null where only a beginning was said. */
function endOf(text: string, moment: Moment): string | null {
  if (moment.allDay) return null;
  const near = text.slice(moment.start, moment.end + 16);
  const match = RANGE.exec(near);
  const start = DateTime.fromISO(moment.at, { setZone: true });
  if (!match?.[4] || !start.isValid) return null;
  let hour = Number(match[4]);
  const minute = Number(match[5] ?? 0);
  if (/pm/i.test(match[6] ?? '') && hour < 12) hour += 12;
  if (hour < start.hour || (hour === start.hour && minute <= start.minute)) hour += 12;
  const end = start.set({ hour: Math.min(hour, 23), minute });
  return end > start && end.diff(start).as('hours') <= 12 ? iso(end) : null;
}

/** ISO 8601 with the offset in figures, as every other moment of a note is written. */
const iso = (at: DateTime): string => at.toFormat("yyyy-MM-dd'T'HH:mm:ssZZ");

const UNTIL_AN_HOUR =
  /^\s?(?:-|–|to|bis|à|a|tot|til|alle|às)\s?\d{1,2}(?:[:.h]\d\d)?\s?(?:am|pm|uhr|h|uur)?/i;

function withoutLead(text: string): string {
  const words = text.replace(PROMISE_LEAD, '');
  return words.slice(findToDo(words)?.lead.end ?? 0);
}

function moveOf(
  clause: Clause,
  kind: MoveKind,
  options: Required<Pick<NoteOptions, 'at'>> & NoteOptions,
): SheetMove {
  const [moment] = findMoments(clause.text, {
    reference: options.at,
    zone: options.zone,
    monthFirst: options.country === 'US',
  });
  const cut = moment && withPreposition(clause.text, moment);
  const rest = cut
    ? clause.text.slice(0, cut.start) + clause.text.slice(cut.end).replace(UNTIL_AN_HOUR, '')
    : clause.text;
  const title = tidy(withoutLead(tidy(rest)))
    .replace(/[\s,]+(?:on|at|by|before|until|for)?[\s.,!]*$/i, '')
    .trim();
  const now = DateTime.fromISO(options.at, { zone: options.zone ?? 'utc' });
  return {
    title: (title.charAt(0).toUpperCase() + title.slice(1)).slice(0, 300) || 'Follow up',
    kind,
    dueAt: moment?.at ?? iso(nextWorkingDay(now, options.free)),
    endAt: moment ? endOf(clause.text, moment) : null,
    allDay: moment ? moment.allDay : true,
    assumedDate: !moment,
    from: clause.text,
  };
}

/** Whether a day is named does not depend on when the note is written. */
const ANY_MOMENT = '2026-01-05T08:00:00+00:00';

/** The kind of thing to do that a clause names, said as an order or as our promise; null when it names none. */
function toDo(text: string): MoveKind | null {
  const [first] = findMoments(text.slice(0, LEADING), { reference: ANY_MOMENT });
  const behind = behindLeadingDay(text, first);
  if (behind && behind < text.length && !moveKindOf(text)) return toDo(text.slice(behind));
  if (isLedIn(text) && !/^(?:call|visit|meet)\s+(?:back|him|her|them|again)\b/i.test(text)) {
    if (!first) return null;
  }
  const promised = PROMISE_LEAD.test(text);
  const words = text.replace(PROMISE_LEAD, '');
  return moveKindOf(words) ?? (promised && /^\p{L}/u.test(words) ? 'task' : null);
}

/** Behind more commas than this a clause is a list, and of a note so many clauses are cut. */
const [MOST_PIECES, MOST_CUT] = [12, 40];

/** A clause cut where, behind a comma, something to do or something that stays so begins. */
function apart(clause: Clause, number: number): Clause[] {
  const pieces = [...clause.text.matchAll(/\S.*?(?=,\s|$)/gsu)];
  if (number >= MOST_CUT || pieces.length > MOST_PIECES) return [clause];
  const cut: Clause[] = [];
  for (const piece of pieces) {
    const text = piece[0].replace(/^,\s+/, '');
    const start = clause.start + piece.index + piece[0].length - text.length;
    const [before, end] = [cut.at(-1), start + text.length];
    if (before && !toDo(text) && !isStanding(text))
      cut[cut.length - 1] = {
        ...before,
        text: clause.text.slice(before.start - clause.start, end - clause.start),
        end,
      };
    else cut.push({ text, start, end });
  }
  return cut;
}

const inside = (one: { start: number; end: number }, clause: Clause): boolean =>
  one.start >= clause.start && one.end <= clause.end;

/** Whether a clause says no more than who it is: names, numbers and what joins them. */
function isAllWho(clause: Clause, claims: readonly Claim[], intents: readonly Intent[]): boolean {
  if (!isLedIn(clause.text) && intents.some((intent) => inside(intent.span, clause))) return false;
  const spans = claims.flatMap(({ span }) => (span && inside(span, clause) ? [span] : []));
  if (!spans.length) return false;
  let rest = clause.text;
  for (const { start, end } of [...spans].sort((a, b) => b.start - a.start))
    rest = rest.slice(0, start - clause.start) + rest.slice(end - clause.start);
  return isLedIn(clause.text) || rest.replace(/[^\p{L}]/gu, '').length <= 12;
}

/** A count that is wanted, and not one of what they have. */
const WANTED_FROM = 0.9;

function dealOf(
  intents: readonly Intent[],
  moves: readonly Clause[],
  currency: string,
): SheetReading['deal'] {
  const outside = intents.filter((intent) => !moves.some((clause) => inside(intent.span, clause)));
  const wish = outside.find((one) => one.kind === 'quantity' && one.confidence >= WANTED_FROM);
  const sum = outside.find((one) => one.kind === 'money');
  if (!wish && !sum) return null;
  const start = outside.find((one) => one.kind === 'date');
  const quantity = wish?.kind === 'quantity' ? wish.value : null;
  const money = sum?.kind === 'money' ? sum.value : null;
  return {
    title: quantity ? `${quantity.count} ${quantity.of}` : UNNAMED_DEAL,
    amountMinor: money?.minor ?? null,
    currency: money?.currency ?? currency,
    quantity: quantity?.count ?? null,
    expectedClose: start?.kind === 'date' ? start.value.at.slice(0, 10) : null,
  };
}

const sentenceOf = (text: string): string => {
  const plain = tidy(text).replace(/[.,;\s]+$/, '');
  return plain ? `${plain.charAt(0).toUpperCase()}${plain.slice(1)}.` : '';
};

/**
 * Reads the plain words of a call sheet into all it will save: facts, background, what was said, follow-ups and a deal.
 * @param text what was typed so far
 * @param options the time on the rep's clock, their zone, the house's country and currency
 */
export function readCallSheet(text: string, options: NoteOptions): SheetReading {
  const { claims, intents, clauses } = readNote(text, options);
  const lit: SheetReading['lit'] = claims.flatMap(({ span }) =>
    span ? [{ start: span.start, end: span.end, part: 'person' as const }] : [],
  );
  const background: Clause[] = [];
  const said: Clause[] = [];
  const moving: Clause[] = [];
  const moves: SheetMove[] = [];
  for (const clause of clauses.flatMap(apart)) {
    if (isAllWho(clause, claims, intents)) continue;
    const kind = toDo(clause.text);
    if (kind) {
      moving.push(clause);
      moves.push(moveOf(clause, kind, options));
      lit.push({ start: clause.start, end: clause.end, part: 'move' });
    } else if (isStanding(clause.text)) {
      background.push(clause);
      lit.push({ start: clause.start, end: clause.end, part: 'background' });
    } else said.push(clause);
  }
  const deal = dealOf(intents, moving, options.currency ?? 'EUR');
  for (const { kind, span } of intents)
    if ((kind === 'money' || kind === 'quantity') && !moving.some((clause) => inside(span, clause)))
      lit.push({ start: span.start, end: span.end, part: 'deal' });
  const valueOf = (field: Claim['field']): string => {
    const claim = claims.find((claim) => claim.field === field);
    return (field === 'phone' ? claim?.value : (claim?.normalized ?? claim?.value)) ?? '';
  };
  return {
    person: {
      fullName: valueOf('fullName'),
      jobTitle: valueOf('jobTitle'),
      companyName: valueOf('companyName'),
      email: valueOf('email'),
      phone: valueOf('phone'),
      address: valueOf('address'),
    },
    background: background.map((clause) => sentenceOf(clause.text)).join(' '),
    said: said.map((clause) => sentenceOf(clause.text)).join(' '),
    moves,
    deal,
    lit: lit.sort((a, b) => a.start - b.start || b.end - a.end),
  };
}
