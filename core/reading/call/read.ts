import type { FreeDays } from '../../calendar/workingDays';
import { companyLikeness } from '../../people/companies';
import { parseName } from '../../people/names';
import { fold } from '../../people/text';
import { readPhone } from '../../people/phones';
import { readMoney } from '../intents/money';
import { goodsOf, readQuantities } from '../intents/quantity';
import { tagNote } from '../tagger/tag';
import { readAsks } from '../intents/asks';
import { moveKindOf } from '../intents/moves';
import { readPromises, readStance } from '../intents/stance';
import { readWhen } from '../intents/when';
import type { Sentence } from '../intents/sentences';
import { titleLikeness } from '../signature/words';
import type { Claim, Intent } from '../types';
import { agreed } from './agreed';
import { clausesOf, type Clause } from './clauses';
import { LESS_SURE, readAnchored } from './anchor';
import { contactClaims } from './contacts';
import { fitted } from './fitted';
import { givenName, isFamilyName } from '../lexicon/names';
import { readLabelled } from './labelled';
import { mended } from './mended';
import { isLedIn, NOT_A_TITLE, readWho, type Found } from './who';

export interface NoteOptions {
  /** ISO 8601 with offset: when the note is written; relative dates count from it. */
  at: string;
  /** IANA name of the writer's zone. */
  zone?: string;
  /** ISO 3166-1 alpha-2, for numbers without a country code. */
  country?: string;
  /** ISO 4217, for sums without a currency. */
  currency?: string;
  /** The names of what the organisation sells. */
  goods?: readonly string[];
  /** Days on which the writer does not work; weekends, where left out. */
  free?: FreeDays | undefined;
}

export interface NoteReading {
  claims: Claim[];
  intents: Intent[];
  clauses: Clause[];
}

const LONGEST = 20_000;
/** From here on a name is sure enough to keep a day or a count out of its words. */
const CERTAIN = 0.78;
/** How many clauses may pass before whoever is named is no longer whom the note is about. */
const HEAD = 3;
const IS_THE =
  /^(?:s?he|who)(?:'s| is)\s+(?:the |their |a |an )?(?<title>[\p{L}][\p{L}'’/& -]{2,40}?)(?=\s+(?:at|of|for|there)\b|[,.]|$)/iu;
/** A clause of nothing but a title: "Procurement lead." */
const TITLE_ALONE = /^(?<title>[\p{L}][\p{L}'’/& -]{3,40})[.!]?$/u;
const ASKED_FOR =
  /^(?:s?he |they |client |customer )?(?:asked|asks|asking|enquired|inquired|wants|wanted|would like|needs) (?:us |me |you )?(?:for |about |to (?:send|call|quote|come|visit|see|have|get|receive|know|hear|be (?:called|sent)) ?|whether |if |how |(?:a |an |the |some |more )?(?:quote|price|prices|offer|brochure|catalogue|callback|call back|call|demo|test ride|visit|meeting|information|info|details|photos|drawings|references|sample|samples|leasing terms)\b)/i;

/** An appointment is a date, and nobody's promise. */
const APPOINTMENT = /^(?:lunch|coffee|demo|meeting|test ride|site visit)\b/i;

const sentenceOf = (clause: Clause): Sentence => ({
  text: clause.text,
  start: clause.start,
  at: (position) => clause.start + position,
});

const asClaim = (one: Found, offset: number): Claim => ({
  field: one.field,
  value: one.field === 'fullName' ? parseName(one.value).fullName : one.value,
  confidence: one.confidence,
  span: { part: 'text', start: offset + one.start, end: offset + one.end },
  source: one.source,
});

/** A given name says more than the place of a word, and a name that ends before its firm more than one that takes it in. */
function surer(led: readonly Found[], anchored: readonly Found[]): readonly Found[] {
  const [byPlace, byName] = [led, anchored].map((all) => all.find((one) => one.field === 'fullName'));
  if (!byPlace || !byName) return byName ? anchored : led;
  if (byName.value.length > byPlace.value.length && byName.value.includes(byPlace.value)) return anchored;
  const isWithin = byPlace.value.includes(byName.value) && byName.value.includes(' ');
  if (byName.confidence <= LESS_SURE && !isWithin) return led;
  if (givenName(byPlace.value) === 0) return anchored;
  const isLonger = byPlace.start === byName.start && byPlace.value.length > byName.value.length;
  return isLonger && anchored.length > led.length ? anchored : led;
}

const isOfNames = (text: string): boolean =>
  text.split(' ').some((word) => givenName(word) > 0 || isFamilyName(word));

/** The name, title and company of whom the note is about, from its first clauses. */
function whoClaims(text: string, clauses: readonly Clause[]): Claim[] {
  const claims: Claim[] = [];
  const has = (field: Claim['field']): boolean => claims.some((claim) => claim.field === field);
  let maybe: Claim | undefined;
  for (const clause of clauses.slice(0, HEAD)) {
    if (has('fullName')) break;
    const end = text.indexOf('\n', clause.start);
    // The list a note begins with may hold full stops and dashes of its own: it is read to the end of its line.
    const line = text.slice(clause.start, end < 0 ? undefined : end).slice(0, 400);
    const words = clause.text.length < 12 || /^[^.;]{2,60}\s[–—|-]\s/.test(line) ? line : clause.text;
    const led = readWho(words);
    // A given name says more than the place of a word, where the two find somebody else.
    const anchored = readAnchored(words);
    for (const one of surer(led, anchored)) {
      // What is in no list of names may be a firm, if somebody with a name comes after it.
      const isUnknown =
        one.field === 'fullName' && led.includes(one) && one.value.includes(' ') && !isOfNames(one.value);
      if (isUnknown) maybe ??= asClaim(one, clause.start);
      else if (!has(one.field)) claims.push(asClaim(one, clause.start));
    }
  }
  if (maybe && !has('fullName')) claims.unshift(maybe);
  else if (maybe && !has('companyName')) claims.push({ ...maybe, field: 'companyName', confidence: 0.7 });
  for (const clause of clauses.slice(0, 8)) {
    const title = IS_THE.exec(clause.text) ?? (has('fullName') ? TITLE_ALONE.exec(clause.text) : null);
    const value = title?.groups?.title?.trim() ?? '';
    if (
      !has('jobTitle') &&
      value &&
      !NOT_A_TITLE.test(value) &&
      titleLikeness(value) > 0 &&
      companyLikeness(value) < 1
    ) {
      const start = clause.text.indexOf(value);
      claims.push(
        asClaim(
          {
            field: 'jobTitle',
            value,
            start,
            end: start + value.length,
            confidence: 0.85,
            source: 'the note',
          },
          clause.start,
        ),
      );
    }
  }
  return claims;
}

function noteIntents(
  clauses: readonly Clause[],
  options: NoteOptions,
  countries: readonly string[],
): Intent[] {
  const said = { reference: options.at, zone: options.zone, monthFirst: options.country === 'US' };
  const goods = goodsOf(options.goods ?? []);
  const intents: Intent[] = [];
  /** Who was said to do something in the clause before, for "… and call back". */
  let doer: 'ours' | 'theirs' = 'ours';
  for (const clause of clauses) {
    const sentence = sentenceOf(clause);
    const dates = readWhen(sentence, said).filter((date) => !isOfNote(date, options.at));
    const clear = (taken: readonly Intent[]) => (one: Intent) =>
      !taken.some((other) => other.span.start < one.span.end && one.span.start < other.span.end);
    const sums = readMoney(sentence, {
      countries,
      ...(options.currency ? { currency: options.currency } : {}),
      bare: 'a sum',
    }).filter(clear(dates));
    const things = readQuantities(sentence, { anything: true, goods }).filter(clear([...dates, ...sums]));
    const [due] = dates;
    const dueAt = due?.kind === 'date' ? due.value.at : null;
    const span: Intent['span'] = { part: 'text', start: clause.start, end: clause.end };
    const words = clause.text.replace(/^(?:and|then|also|pls|please|to do:?|todo:?|next:?|action:?)\s+/i, '');
    const what = words.replace(/[.!?\s]+$/, '');
    const isLead = isLedIn(clause.text) && !dates.length;
    if (ASKED_FOR.test(clause.text))
      intents.push({ kind: 'ask', text: clause.text, value: { what, due: dueAt }, confidence: 0.85, span });
    else if (moveKindOf(words) && !isLead && !APPOINTMENT.test(words))
      intents.push({
        kind: 'promise',
        text: clause.text,
        value: { by: /^and\s/i.test(clause.text) ? doer : 'ours', what, due: dueAt },
        confidence: 0.8,
        span,
      });
    else {
      const promises = readPromises([sentence], dates, 'ours');
      intents.push(...promises);
      const [promise] = promises;
      doer = promise?.kind === 'promise' ? promise.value.by : 'ours';
      if (!promises.length && /\?$/.test(clause.text)) intents.push(...readAsks([sentence], dates));
      intents.push(...readStance([sentence], 'ours'));
    }
    intents.push(...dates, ...sums, ...things);
  }
  return intents
    .filter((intent) => !isSaidSurer(intent, intents))
    .sort((a, b) => a.span.start - b.span.start);
}

/** "Telefonat 24.11.": the day on which a note is written, by its number, is that of the note and no appointment. */
const isOfNote = ({ kind, text, value }: Intent, at: string): boolean =>
  kind === 'date' && value.allDay && value.at.slice(0, 10) === at.slice(0, 10) && /\d/.test(text);

/**
 * Whether a count or a day is the same that stands elsewhere more surely, or as surely and earlier: "wants twelve … 12 seats",
 * "Thursday week, the 3rd".
 */
const isSaidSurer = (intent: Intent, all: readonly Intent[]): boolean =>
  all.some(
    (other) =>
      other !== intent &&
      isSameSaid(intent, other) &&
      (other.confidence > intent.confidence ||
        (intent.kind === 'date' &&
          other.confidence === intent.confidence &&
          other.span.start < intent.span.start)),
  );

function isSameSaid(one: Intent, other: Intent): boolean {
  if (one.kind === 'quantity') return other.kind === 'quantity' && other.value.count === one.value.count;
  return one.kind === 'date' && other.kind === 'date' && other.value.at === one.value.at;
}

/** Whom a note is about by the rules alone, without the model: for the bench that compares the two. */
export const whoByRules = (text: string): Claim[] => whoClaims(text, clausesOf(text));

/**
 * Reads what a rep notes of a call: who it was with, and what was said, wanted and promised.
 * @param text the note, in plain words; at most 20,000 characters are read
 */
export function readNote(text: string, options: NoteOptions): NoteReading {
  const note = text.replace(/\r\n?/g, '\n').slice(0, LONGEST);
  const clauses = clausesOf(note);
  const labelled = readLabelled(note, options.country);
  const single = new Set(['fullName', 'jobTitle', 'companyName', 'address']);
  const claims = [...labelled];
  const who = mended(agreed(whoClaims(note, clauses), tagNote(note)), note);
  for (const claim of [...who, ...contactClaims(note, options.country)]) {
    const same = claims.some((one) =>
      single.has(claim.field)
        ? one.field === claim.field
        : one.field === claim.field && one.normalized === claim.normalized,
    );
    const inside =
      claim.field === 'companyName' && isWithin(fold(claim.value), fold(valueOf(claims, 'fullName')));
    const isLabelled = labelled.some((one) => overlaps(one, claim));
    if (!same && !inside && !isLabelled) claims.push(claim);
  }
  const spoken = clauses.filter(
    (clause) =>
      !labelled.some(
        ({ span, field }) => field !== 'note' && span && span.start >= clause.start && span.end <= clause.end,
      ),
  );
  const intents = noteIntents(spoken, options, landsOf(claims, options)).filter(
    (intent) => !isInName(intent, claims),
  );
  return { ...fitted(claims, intents), clauses };
}

/** Whether all the words of a text stand in another, one behind the other. */
const isWithin = (text: string, other: string): boolean => ` ${other} `.includes(` ${text} `);

/** Whether two claims rest on the same words. */
const overlaps = ({ span: one }: Claim, { span: other }: Claim): boolean =>
  one !== undefined && other !== undefined && one.start < other.end && other.start < one.end;

/** Whether what was taken for a day or a count is part of somebody's name or number: "Fabrice Noël", "Two Hands Bakery". */
const isInName = ({ kind, span }: Intent, claims: readonly Claim[]): boolean =>
  (kind === 'date' || kind === 'quantity') &&
  claims.some(
    ({ field, confidence, span: of }) =>
      (field === 'fullName' || field === 'companyName' || field === 'phone') &&
      confidence >= CERTAIN &&
      of &&
      of.start <= span.start &&
      span.end <= of.end,
  );

/** In whose money a sum is that names none: the land of the caller's number, else the house's, else the one that was told. */
function landsOf(claims: readonly Claim[], options: NoteOptions): string[] {
  const number = claims.find((claim) => claim.field === 'phone')?.normalized;
  const land = number ? (readPhone(number)?.country ?? null) : null;
  if (land) return [land];
  return options.country && !options.currency ? [options.country] : [];
}

const valueOf = (claims: readonly Claim[], field: Claim['field']): string =>
  claims.find((claim) => claim.field === field)?.value ?? '';
