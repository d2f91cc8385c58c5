import type { Filter } from '../types';
import { NUMBER, readNumber } from './tokens';
import { condition, words, type Rule, type State } from './state';

const AUXILIARY =
  "(?:have|has|had|haven't|havent|hasn't|hasnt|hadn't|were|was|weren't|wasn't|are|did|didn't|didnt|i've|we've|ive|weve|being)";
const NEGATIVE = /(?:n't|\bhavent|\bhasnt|\bdidnt|\bnot\b|\bnever\b)/;
const VERB = `(?<verb>(?:in touch|in contact)(?: with)?|(?:spoken|spoke|speak|talked|talk)(?: (?:to|with))?|contacted|contact|reached|touched|heard from|(?:called|phoned|rang|rung|call)|(?:emailed|e-mailed|mailed|written to|wrote to|written|write to|email|mail)|(?:met|meet|visited|seen)(?: with)?)`;
const SPOKEN = words(
  `(?:(?:who|whom|that|which|whose) )?(?<before>(?:${AUXILIARY} )*)(?:(?<subject>i|we|my team|anyone|anybody|nobody|no one|anyone) )?(?<between>(?:${AUXILIARY} )*)(?<negative>not |never |no longer )?(?:yet )?(?:been )?${VERB}(?: to)?(?: (?:or|nor) (?<other>called|phoned|emailed|e-mailed|mailed|met|written to|visited))?(?: by (?<by>me|us))?`,
);
const LAST = words(
  '(?:(?:their |the |our )?(?:last|latest|most recent) (?<verb>spoken(?: to| with)?|talked(?: to| with)?|contact(?:ed)?|touched|call(?:ed)?|mail(?:ed)?|email(?:ed)?|met|meeting|conversation|talk)(?: was| is)?)',
);
const KINDS: readonly (readonly [RegExp, string])[] = [
  [/^(?:called|phoned|rang|rung|call)/, 'call'],
  [/^(?:emailed|e-mailed|mailed|written|wrote|write|email|mail)/, 'mail'],
  [/^(?:met|meet|visited|seen)/, 'meeting'],
];
const QUIET = words(
  '(?:(?:that |which |who )?(?:(?:have|has|had) )?(?:gone |been |going |went |is |are )*(?:quiet|silent|cold)|(?:with )?no (?:contact|word|conversation|news)(?: with| from)?(?: them)?|unspoken to|untouched|not heard from|without (?:any )?contact)',
);
const QUIET_LONG = words(
  `(?:for )?(?:over|more than|at least|longer than|the last )?\\s?(?<number>${NUMBER}) (?:or more )?(?<unit>day|week|month|year)s?(?: or more| or longer)?`,
);

const fieldFor = (state: State, verb: string): string =>
  /^(?:touch|untouch|contact|reach)/.test(verb) && state.has('lastTouched') ? 'lastTouched' : 'lastSpokenTo';

/** Spoken with, called, mailed or met, by whom and when. Not since June is before June, or never. */
export const spoken: Rule = (state) => {
  if (!state.has('lastSpokenTo')) return null;
  const start = state.at;
  const found = state.take(SPOKEN);
  if (!found) return null;
  const { verb = '', subject, before = '', between = '', negative = '', by } = found;
  // What somebody did is asked for; "call" and "email" may be nouns, or what is to be done.
  const isBase = /^(?:call|mail|email|contact|talk|speak|meet|write)\b/.test(verb);
  if (isBase && !/\bdid/.test(`${before}${between}`)) {
    state.at = start;
    return null;
  }
  const isNot = NEGATIVE.test(`${before}${between}${negative}`) || /^no(?:body| one)$/.test(subject ?? '');
  const isMine = subject === 'i' || by === 'me' || /\b(?:i've|ive)\b/.test(before + between);
  state.take(words('(?:yet|at all|again|anymore)'));
  const when = state.when('past');
  const field = fieldFor(state, verb);
  const kinds = [verb, found.other ?? ''].flatMap(
    (called) => KINDS.find(([pattern]) => pattern.test(called))?.[1] ?? [],
  );
  const parts: Filter[] = when ? [{ field, op: when.op, value: when.value }] : [{ field, op: 'filled' }];
  if (kinds.length && state.has('lastKind')) parts.push({ field: 'lastKind', op: 'is', value: kinds });
  const said: Filter = parts.length > 1 ? { all: parts } : (parts[0] as Filter);
  const contact: Filter = isNot ? (when || kinds.length ? { not: said } : { field, op: 'empty' }) : said;
  if (isMine) return condition({ all: [{ field: 'owner', op: 'is', value: ['me'] }, contact] });
  return condition(
    subject === 'my team' ? { all: [{ field: 'owner', op: 'is', value: ['myTeam'] }, contact] } : contact,
  );
};

/** "Last spoken to over 30 days ago": a time there is. */
export const lastSpoken: Rule = (state) => {
  const found = state.has('lastSpokenTo') ? state.take(LAST) : null;
  const when = found && state.when('past');
  if (!found || !when) return null;
  const kind = KINDS.find(([pattern]) => pattern.test(found.verb ?? ''))?.[1];
  const said: Filter = { field: fieldFor(state, found.verb ?? ''), op: when.op, value: when.value };
  return condition(
    kind && state.has('lastKind') ? { all: [said, { field: 'lastKind', op: 'is', value: [kind] }] } : said,
  );
};

const LAST_WAS = words(
  '(?:whose |with )?(?:their |the |our )?(?:last|latest|most recent) (?:contact|conversation|talk)(?: was| is)?(?: by| an?| a)? (?<kind>phone call|call|phone|e-?mail|mail|meeting|visit)',
);
const SAID: Readonly<Record<string, string>> = {
  'phone call': 'call',
  phone: 'call',
  email: 'mail',
  'e-mail': 'mail',
};
/** "Last contact was a call", "last contact by mail over a month ago". */
export const lastWas: Rule = (state) => {
  const found = state.has('lastKind') ? state.take(LAST_WAS) : null;
  if (!found) return null;
  const kind: Filter = { field: 'lastKind', op: 'is', value: [SAID[found.kind ?? ''] ?? found.kind ?? ''] };
  const when = state.when('past');
  return condition(when ? { all: [{ field: 'lastSpokenTo', op: when.op, value: when.value }, kind] } : kind);
};

/** Quiet since June, or for 30 days: nothing was said since, or ever. */
export const quiet: Rule = (state) => {
  const found = state.has('lastSpokenTo') ? state.take(QUIET) : null;
  if (!found) return null;
  const field = fieldFor(state, found.all?.includes('untouched') ? 'touched' : 'spoken');
  const when = state.when('past');
  if (when) {
    if (when.op === 'before') return condition({ field, op: 'before', value: when.value });
    return condition({ not: { field, op: when.op === 'in' ? 'since' : when.op, value: when.value } });
  }
  const long = state.take(QUIET_LONG);
  if (!long) return null;
  const unit = (long.unit ?? 'day') as 'day';
  const value = { away: -Math.round(readNumber(long.number ?? 'a')), unit };
  return condition({ not: { field, op: 'since', value } });
};

const TURN: readonly (readonly [RegExp, string])[] = [
  [
    words(
      "(?:(?:it's|it is|its|is|where it's) )?(?:our|my) turn|turn (?:is )?ours|(?:(?:that|who) (?:are|is) )?(?:waiting (?:for|on) (?:us|me|our (?:answer|reply)|an answer from us)|awaiting our (?:answer|reply))|(?:we|i) owe(?: them)?(?: an? (?:answer|reply|word)(?: to)?)?|ours to answer",
    ),
    'ours',
  ],
  [
    words(
      "(?:(?:it's|it is|its|is) )?their turn|turn (?:is )?theirs|(?:we(?: are|'re) |i'm |i am )?(?:waiting (?:for|on) (?:them|their (?:answer|reply)|an (?:answer|reply))|awaiting (?:their|an) (?:answer|reply))|(?:that |who )?owes? us(?: an? (?:answer|reply|word))?",
    ),
    'theirs',
  ],
  [words("(?:it's |it is |is )?nobody's turn|turn (?:is )?nobody's"), 'nobody'],
];
export const turn: Rule = (state) => {
  if (!state.has('turn')) return null;
  for (const [pattern, value] of TURN)
    if (state.take(pattern)) {
      const said: Filter = { field: 'turn', op: 'is', value: [value] };
      const when = state.has('turnSince') ? state.when('past') : null;
      if (!when) return condition(said, 'turn');
      // "For more than 3 days" is since a day before those.
      const isLasting = when.op === 'since' && typeof when.value === 'object' && 'away' in when.value;
      return condition({
        all: [said, { field: 'turnSince', op: isLasting ? 'before' : when.op, value: when.value }],
      });
    }
  return null;
};
