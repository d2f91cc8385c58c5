import { alternatives } from '../../words/compile';
import { companyLikeness } from '../../people/companies';
import { looksLikeName } from '../../people/names';
import { flatten, WEEKDAY_WORDS } from '../intents/dateWords';
import { titleLikeness } from '../signature/words';
import type { Claim } from '../types';

const WORD = "\\p{Lu}[\\p{L}\\p{M}'’-]+";
/** "heißt Petra Wagner", "her name is Fern Castle". */
const CALLED = new RegExp(
  `(?<!\\p{L})(?:${alternatives('isCalled')})\\s(?<name>${WORD}(?:\\s${WORD}){0,2})`,
  'du',
);
const HONORIFIC = new RegExp(`^(?:${alternatives('honorific')})\\.?$`, 'iu');
/** "his secretary", "ihre Assistentin": somebody else's post. */
const OF_SOMEBODY =
  /^(?:his|her|their|sein[er]?|ihr[er]?|son|sa|leur|seu|sua|su|suo|zijn|haar|hans|hennes)\s/i;

const isTitle = ({ field, value }: Claim): boolean =>
  field !== 'jobTitle' || (!HONORIFIC.test(value) && !OF_SOMEBODY.test(value));

/** The name of one of two people, and no post taken for a name. */
function nameOf(claim: Claim): Claim | null {
  if (claim.field !== 'fullName') return claim;
  const [first = ''] = claim.value.split(/\s*[+&/]\s*/);
  const isDay = WEEKDAY_WORDS.has(flatten(first).replace(/\.$/, ''));
  if (!first || isDay || titleLikeness(first) > 0) return null;
  const span = claim.span && { ...claim.span, end: claim.span.start + first.length };
  return first === claim.value ? claim : { ...claim, value: first, ...(span ? { span } : {}) };
}

/** A given name alone, as the whole name where the note says that further on: "met Luis at the fair, Luis Carvalho". */
function inFull(claim: Claim, note: string): Claim {
  if (claim.field !== 'fullName' || !/^\p{Lu}[\p{L}\p{M}'’-]+$/u.test(claim.value)) return claim;
  const fuller = new RegExp(`(?<![\\p{L}])${claim.value}\\s${WORD}`, 'u').exec(note);
  const value = fuller?.[0] ?? '';
  if (!fuller || companyLikeness(value) > 0 || titleLikeness(value) > 0 || !looksLikeName(value))
    return claim;
  return { ...claim, value, span: { part: 'text', start: fuller.index, end: fuller.index + value.length } };
}

/** Somebody whose name is only said by "is called". */
function calledSo(note: string): Claim[] {
  const match = CALLED.exec(note);
  const value = match?.groups?.name ?? '';
  const [start, end] = match?.indices?.groups?.name ?? [0, 0];
  if (!value || companyLikeness(value) > 0 || titleLikeness(value) > 0 || !looksLikeName(value)) return [];
  return [
    { field: 'fullName', value, confidence: LIKELY, span: { part: 'text', start, end }, source: 'the note' },
  ];
}
const LIKELY = 0.8;

/** What was found of whom a note is about, without what cannot be so, and with the whole of a name. */
export function mended(claims: readonly Claim[], note: string): Claim[] {
  const kept = claims.filter(isTitle).flatMap((claim) => {
    const named = nameOf(claim);
    return named ? [inFull(named, note)] : [];
  });
  return kept.some(({ field }) => field === 'fullName') ? kept : [...calledSo(note), ...kept];
}
