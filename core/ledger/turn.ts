import { readEntry, type EntryReading, type Said, type Side, type TurnOutcome } from './entryReading';
import { alternatives } from '../words/compile';
import type { NoteStatements } from './noteStatements';
import type { Statements } from './statements';
import { flat, phrases } from './turnPatterns';

export type { Side, TurnOutcome };
export type Turn = 'ours' | 'theirs' | 'nobody';

export interface TurnEntry extends Said {
  /** ISO 8601. */
  at: string;
  /** What was read of it before; it is read now where nothing is given. */
  reading?: EntryReading | null;
  /** Whoever marked that nothing is left to answer. */
  settledBy?: string | null;
}

export interface TurnState {
  turn: Turn;
  /** When the word that decides it was said; null when nothing was. */
  since: string | null;
  /** Why, in words without the date: "they asked to send the quote". */
  because: string;
}

/** Something that somebody still owes. */
interface Debt {
  at: string;
  why: string;
  what: string;
  kind: 'question' | 'request' | 'promise' | 'quote' | 'offer' | 'choice' | 'left' | 'word';
}
interface Standing {
  ours: Debt[];
  theirs: Debt[];
  settled: { at: string; why: string } | null;
  isBegun: boolean;
  /** What they asked and we asked back about: it waits until they have answered that. */
  pending: Debt[];
  /** What we asked and they asked back about: it waits until we have answered that. */
  waiting: Debt[];
  /** Who wrote last. */
  last: 'ours' | 'theirs' | null;
}

const STOP = new Set(
  'about also and are aus bonjo hello dear guten buena bueno beste goede hallo avec back been can che com come con could das dem den der des die does een een eine for from haben have het ich les mit nos not och oder para per please pour que sie the them they this und una une uns van von vous was were what when will with would you your'.split(
    ' ',
  ),
);
/** Past forms that share no beginning with their verb. */
const VERBS: Readonly<Record<string, string>> = {
  sent: 'send',
  rang: 'ring',
  wrote: 'write',
  written: 'write',
  paid: 'pay',
  brought: 'bring',
  gave: 'give',
  spoke: 'speak',
  told: 'tell',
  made: 'make',
  met: 'meet',
};
const stem = (word: string): string =>
  (VERBS[word] ?? (word.length > 4 ? word.replace(/(?:ing|ed|es|s)$/, '') : word)).slice(0, 5);
const stemsOf = (text: string): Set<string> =>
  new Set((flat(text).match(/[\p{L}\p{N}]{3,}/gu) ?? []).map(stem).filter((word) => !STOP.has(word)));

const QUOTE = phrases('quote');
const ASKS_PRICE = phrases('asksPrice');
const ASKS_WHEN = phrases('asksWhen');
const SAYS_WHEN = phrases('saysWhen');
const SAYS_PRICE =
  /[€£$]\s?\d|\d\s?(?:€|£|\$|eur|euros?|gbp|kr|zl|each\b|per |net\b)|\d{2,} (?:a|the) |\b(?:free(?: of charge)?|no (?:extra |additional )?(?:charge|cost)|gratis|kostenlos|gratuit\w*)\b/;

/** Whether words answer what was asked: they take up its own words, or name the price or the time it asked for. */
function answers({ what }: Debt, words: ReadonlySet<string>, said: string, shared = 1): boolean {
  const asked = flat(what);
  if (ASKS_PRICE.test(asked) && SAYS_PRICE.test(said)) return true;
  if (ASKS_WHEN.test(asked) && SAYS_WHEN.test(said)) return true;
  return [...stemsOf(what)].filter((stem) => words.has(stem)).length >= shared;
}

/** With so many words beside a question, what was asked first is answered in them. */
const MOST_BESIDES = 14;
/** Whether what is said beside a question answers what was asked first. */
function isAnswered(one: Debt, { besides, agrees }: Statements): boolean {
  if (besides === '') return false;
  if (besides.split(' ').length > MOST_BESIDES || SAYS_PRICE.test(besides)) return true;
  return one.kind !== 'word' && (agrees || answers(one, stemsOf(besides), besides, 2));
}

/** The debts a reply leaves: where it plainly answers some of several, the others stay. */
function unanswered(debts: readonly Debt[], said: string): Debt[] {
  if (debts.length < 2) return [];
  const words = stemsOf(said);
  const open = debts.filter((one) => !answers(one, words, said));
  return open.length < debts.length ? open : [];
}

const debt = (at: string, why: string, what: string, kind: Debt['kind'] = 'word'): Debt => ({
  at,
  why,
  what,
  kind,
});
const asked = (
  at: string,
  who: string,
  { asks, requests = false }: { asks: readonly string[]; requests?: boolean },
): Debt[] => asks.map((what) => debt(at, `${who} asked: ${what}`, what, requests ? 'request' : 'question'));
const promised = (at: string, who: string, promises: readonly string[]): Debt[] =>
  promises.map((what) => debt(at, `${who} promised: ${what}`, what, 'promise'));

/** A short answer, or a task, that says it is done, and not only that it will be. */
const DONE = phrases('isDone');

/** "Blue, please": a short wish without a verb of asking, where we had asked, answers. */
const isPick = (now: Standing, { asks, requests, promises, accepts }: Statements): boolean =>
  now.theirs.some(({ kind }) => kind === 'question') &&
  asks.length > 0 &&
  !requests &&
  !promises.length &&
  !accepts &&
  asks.every((ask) => PICK.test(flat(ask)) && flat(ask).split(' ').length <= LONGEST_PICK);
const LONGEST_PICK = 14;
/** With "please" at the end of what is wished for, and neither a question nor a number in it. */
const PICK = new RegExp(`^(?![^?]*[?\\d]).*(?<![a-z])(?:${alternatives('shortPlease')})(?:[ .!]*$|[,;])`);

const NO = /^(?:no|nope|nein|non|nao|nee|nej|nei|nie)\b(?! problem)/;

/** What they say in their own words. */
function hear(now: Standing, { at }: TurnEntry, heard: Statements): void {
  const said = isPick(now, heard) ? { ...heard, asks: [] } : heard;
  if (said.declines && !said.asks.length) {
    Object.assign(now, { ours: [], theirs: [], settled: { at, why: 'they said no' } });
    return;
  }
  const hadAsked = now.theirs.length > 0;
  const hadQuote = now.theirs.some(({ kind }) => kind === 'quote');
  if (said.counters && !said.isNotYet && !said.asks.length && !said.promises.length && !said.accepts) {
    now.theirs = [];
    now.ours.push(debt(at, 'it does not suit them', said.words));
    return;
  }
  const offer = now.theirs.find(({ kind }) => kind === 'offer');
  const isYes =
    !NO.test(said.words) && (said.agrees || (!said.isThanks && !said.asks.length && !said.counters));
  if (offer && isYes && !said.isNotYet && !said.promises.length) {
    now.theirs = [];
    now.ours.push(
      debt(at, `they said yes to: ${offer.what}`, offer.what, 'request'),
      ...asked(at, 'they', said),
    );
    return;
  }
  const choice = now.theirs.find(({ kind }) => kind === 'choice');
  if (choice && !said.isThanks && !said.isNotYet && !said.promises.length && !said.asks.length) {
    now.theirs = [];
    now.ours.push(debt(at, 'they chose', said.words));
    return;
  }
  if (said.isNotYet && now.theirs.length && !said.asks.length && !said.accepts) {
    now.theirs = promised(at, 'they', said.promises).concat(
      said.promises.length ? [] : [debt(at, 'they have no answer yet', said.words)],
    );
    return;
  }
  if (said.asks.length || said.accepts) {
    if (said.asksBack && said.isBare && !said.accepts && !said.agrees)
      now.waiting = now.theirs.filter(({ kind }) => kind === 'question' || kind === 'request');
    // What they ask about a quote decides nothing about it.
    now.theirs = said.accepts ? [] : now.theirs.filter(({ kind }) => kind === 'quote');
    now.ours.push(...asked(at, 'they', said));
    if (said.accepts) now.ours.push(debt(at, 'they accepted', 'accepted'));
  }
  if (said.promises.length) {
    now.theirs = promised(at, 'they', said.promises);
    return;
  }
  if (said.asks.length || said.accepts) return;
  if (said.isThanks) {
    // "Thanks, got it" answers no question of ours, decides on no quote, and keeps no promise; a "yes" answers.
    now.theirs = now.theirs.filter(
      ({ kind }) =>
        kind === 'quote' ||
        kind === 'promise' ||
        (kind === 'request' && !DONE.test(said.words)) ||
        (kind === 'question' && !said.agrees && !DONE.test(said.words)),
    );
    now.settled = { at, why: 'they closed it' };
    return;
  }
  now.theirs = [];
  if (hadQuote) now.ours.push(debt(at, 'they wrote about the quote', said.words));
  else if (hadAsked && now.pending.length && !said.ends && !said.reports) {
    now.ours.push(...now.pending);
    now.pending = [];
  } else if (hadAsked || said.ends || said.reports || (said.thanks && now.last === 'ours'))
    now.settled = { at, why: said.ends ? 'they closed it' : 'they answered' };
  else now.ours.push(debt(at, 'they wrote', said.words));
}

/** What we say in our own words. */
function tell(now: Standing, { at }: TurnEntry, said: Statements, isWritten: boolean): void {
  const hadDebts = now.ours.length > 0;
  // Where they asked for an offer, a price is one.
  const isQuote =
    isWritten || (SAYS_PRICE.test(said.words) && now.ours.some(({ what }) => QUOTE.test(flat(what))));
  const left = unanswered(now.ours, said.words);
  now.pending = said.asksBack
    ? [...now.pending, ...now.ours.filter((one) => one.kind !== 'promise' && !isAnswered(one, said))]
    : [];
  // Thanks alone answer no question and keep no promise; a "yes" answers.
  if (!said.isThanks) now.ours = left;
  else now.ours = now.ours.filter(({ kind }) => kind === 'promise' || (kind !== 'word' && !said.agrees));
  if (said.declines && !said.asks.length) {
    Object.assign(now, { ours: [], theirs: [], settled: { at, why: 'we said no' } });
    return;
  }
  now.ours.push(...promised(at, 'we', said.promises));
  if (said.asks.length)
    now.theirs = asked(at, 'we', said).map((one) =>
      said.offers.includes(one.what)
        ? { ...one, kind: 'offer' }
        : said.choices.includes(one.what)
          ? { ...one, kind: 'choice' }
          : one,
    );
  if (isQuote || said.bringsQuote)
    now.theirs = [...now.theirs, debt(at, 'we sent the quote', 'quote', 'quote')];
  if (said.asks.length || isQuote || said.bringsQuote || said.promises.length) return;
  if (now.waiting.length && !now.ours.length && !said.isThanks) {
    now.theirs = [...now.theirs, ...now.waiting];
    now.waiting = [];
  }
  if (said.ends) {
    now.theirs = [];
    now.settled = { at, why: 'nothing is left to answer' };
  } else if (now.theirs.length) now.settled = null;
  else if (hadDebts || said.isThanks)
    now.settled = { at, why: hadDebts ? 'we answered' : 'nothing is left to answer' };
  else if (said.informs || said.reports || (now.last === 'theirs' && now.settled))
    now.settled = { at, why: 'nothing is left to answer' };
  else if (!now.isBegun || !said.brings) now.theirs = [debt(at, 'we wrote', said.words)];
  else now.settled = { at, why: 'we sent it' };
}

/** What the note of a call, a meeting or a visit says is still to be done by us. */
const leftOpen = ({ at, kind }: TurnEntry, asks: readonly string[]): Debt[] =>
  asks.map((what) => debt(at, `open after the ${kind}: ${what}`, what, 'left'));

/** A call or a meeting: both have spoken, and only what was left open in it stays. */
function speak(now: Standing, entry: TurnEntry, said: NoteStatements): void {
  const { at, outcome, side, text } = entry;
  if (outcome === 'no answer' || outcome === 'voicemail') {
    // Our voicemail settles nothing; theirs wants us to call back.
    if (side === 'theirs') now.ours.push(debt(at, 'they tried to reach us', text ?? ''));
    return;
  }
  if (outcome !== 'moved') Object.assign(now, { ours: [], theirs: [], settled: { at, why: 'last spoke' } });
  if (said.declines) return;
  now.ours.push(...leftOpen(entry, said.asks), ...promised(at, 'we', said.promises));
  if (said.accepts) now.ours.push(debt(at, 'they accepted', 'accepted'));
  if (said.theirPromises.length) now.theirs = promised(at, 'they', said.theirPromises);
}

/** A task that is done settles the question or the promise it was about. */
function carryOut(now: Standing, { at, text = '' }: TurnEntry): void {
  const said = flat(text);
  if (!(DONE.test(said) || /^[a-z]+ed\b/.test(said)) || !now.ours.length) return;
  const words = stemsOf(text);
  const others = now.ours.filter(({ what }) => ![...stemsOf(what)].some((stem) => words.has(stem)));
  now.ours = others;
  if (!now.ours.length) now.settled = { at, why: 'we did what they asked' };
}

function take(now: Standing, entry: TurnEntry): void {
  const { at, side, kind, settledBy = null } = entry;
  if (settledBy)
    return void Object.assign(now, {
      ours: [],
      theirs: [],
      settled: { at, why: `${settledBy} marked it as answered` },
    });
  if (kind === 'task') return carryOut(now, entry);
  const { isRobot, said, noted } = entry.reading ?? readEntry(entry);
  if (isRobot) return;
  if (noted) return speak(now, entry, noted);
  if (!said) return;
  if (side === 'ours') tell(now, entry, said, kind === 'quote');
  else hear(now, entry, kind === 'quote' && !said.declines ? { ...said, accepts: true } : said);
  now.isBegun = true;
  now.last = side === 'ours' ? 'ours' : 'theirs';
}

/**
 * Who owes the next word. Questions and promises open it; an answer, a kept promise, or nothing left to answer closes it.
 * A call or meeting settles both sides but for what was left open in it; a voicemail, our own notes, robots and notices settle
 * nothing. A quote sent makes it theirs, a quote accepted ours; where both owe, it is ours.
 * @param entries of one exchange, in any order
 */
export function readTurn(entries: readonly TurnEntry[]): TurnState {
  const now: Standing = {
    ours: [],
    theirs: [],
    settled: null,
    isBegun: false,
    pending: [],
    waiting: [],
    last: null,
  };
  for (const entry of [...entries].sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) take(now, entry);
  // What was asked or promised in so many words says more than what a note leaves open.
  const ours = now.ours.find(({ kind }) => kind !== 'left' && kind !== 'word') ?? now.ours[0];
  if (ours) return { turn: 'ours', since: ours.at, because: ours.why };
  const theirs = now.theirs.at(-1);
  if (theirs) return { turn: 'theirs', since: theirs.at, because: theirs.why };
  return { turn: 'nobody', since: now.settled?.at ?? null, because: now.settled?.why ?? 'nothing said yet' };
}

const since = (state: TurnState): number => (state.since ? Date.parse(state.since) : 0);

/**
 * Whose turn it is with several: ours as soon as one of them waits for us, and then with whoever waits longest; else theirs,
 * with whoever was asked last. So what a company or a deal says never contradicts what its people say.
 */
export function joinTurns(states: readonly TurnState[]): TurnState {
  const of = (turn: Turn): TurnState[] =>
    states.filter((state) => state.turn === turn).sort((a, b) => since(a) - since(b));
  return of('ours')[0] ?? of('theirs').at(-1) ?? of('nobody').at(-1) ?? readTurn([]);
}
