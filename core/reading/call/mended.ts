import { DateTime } from 'luxon';
import { alternatives } from '../../words/compile';
import { companyLikeness } from '../../people/companies';
import { looksLikeName, setCase } from '../../people/names';
import { currencyCalled } from '../intents/currencies';
import { findDays } from '../intents/dates';
import { flatten, WEEKDAY_WORDS } from '../intents/dateWords';
import { givenName, isFamilyName } from '../lexicon/names';
import { titleLikeness } from '../signature/words';
import { byHonorific } from './anchor';
import { partedFromFirm, untilWhen } from './bounds';
import { readTail } from './who';
import type { Claim } from '../types';

const WORD = "\\p{Lu}[\\p{L}\\p{M}'’-]+";
/** "heißt Petra Wagner", "her name is Fern Castle". */
const CALLED = new RegExp(
  `(?<!\\p{L})(?:${alternatives('isCalled')})\\s(?<name>${WORD}(?:\\s${WORD}){0,2})`,
  'du',
);
const NOT_A_NAME = new RegExp(`^(?:${alternatives('notACallersName')})$`, 'iu');
const HONORIFIC = new RegExp(`^(?:${alternatives('honorific')})\\.?$`, 'iu');
/** "his secretary", "ihre Assistentin": somebody else's post. */
const OF_SOMEBODY =
  /^(?:his|her|their|sein[er]?|ihr[er]?|son|sa|leur|seu|sua|su|suo|zijn|haar|hans|hennes)\s/i;

/** "The receptionist", "wenn der Chef zurück ist": whoever else is spoken of, unless the name stands beside it. */
const SOMEONE_ELSE = new RegExp(`^(?:${alternatives('someoneElse')})$`, 'iu');
const WITH_ARTICLE = /(?:^|[^\p{L}])(?:the|der|die|dem|den|le|la|el|il|lo|o|a|de|het|al|au|du|l['’])\s?$/iu;
/** "He's the owner", "sie ist die Inhaberin". */
const SAID_OF_THEM = /(?:['’]s|(?<!\p{L})(?:is|was|ist|est|es|é|è|är|er|jest|je))\s(?:\p{L}+\s|l['’])$/iu;
const BESIDE = 4;

function isTitle({ field, value, span }: Claim, claims: readonly Claim[], note: string): boolean {
  if (field !== 'jobTitle') return true;
  if (HONORIFIC.test(value) || OF_SOMEBODY.test(value) || BEGINS_LATER.test(value)) return false;
  const name = claims.find((claim) => claim.field === 'fullName')?.span;
  if (!span || !name || !SOMEONE_ELSE.test(value)) return true;
  const apart = span.start >= name.end ? note.slice(name.end, span.start) : note.slice(span.end, name.start);
  const before = note.slice(Math.max(0, span.start - 16), span.start);
  const isBeside = apart.replace(WITH_ARTICLE, '').length < BESIDE;
  return isBeside || SAID_OF_THEM.test(before) || !WITH_ARTICLE.test(before);
}
/** "Im Vorstand", "on the board": where somebody sits, and no post. */
const BEGINS_LATER =
  /^(?:who\s)?(?:does|runs|handles|looks|works|makes|im|in|am|an|on|at|auf|bei|au|aux|dans|en|nel|nella|no|na|op|bij|på|i|w|we|ve|v)\s/i;

const ANY_DAY = DateTime.utc(2000, 1, 3);
/** "Christmas Eve" is nobody's name. */
const isDay = ({ value, span }: Claim, note: string): boolean =>
  (span && FEAST_BEFORE.test(note.slice(Math.max(0, span.start - 12), span.start))) ||
  findDays(flatten(value), ANY_DAY, false).some(({ start, end }) => start === 0 && end === value.length);
const FEAST_BEFORE = /(?:christmas|new year['’]s)\s$/i;

/** The name of one of two people, and no post taken for a name. */
function nameOf(claim: Claim, note: string): Claim | null {
  if (claim.field !== 'fullName') return claim;
  const [first = ''] = claim.value.split(/\s*[+&/]\s*/);
  const isWeekday = WEEKDAY_WORDS.has(flatten(first).replace(/\.$/, ''));
  const words = first.split(/[\s.]+/).filter(Boolean);
  // "Chase the invoice", but Chase Miller, June Ashby and Domingo Pérez are called so.
  const isCalledSo = words.length > 1 && givenName(words[0] ?? '') > 0 && isTheirs(words.at(-1) ?? '', note);
  const isOther =
    isWeekday || currencyCalled(first, '') !== null || (NOT_A_NAME.test(words[0] ?? '') && !isCalledSo);
  // "Chefin" is a post; Femke Bakker and Anna Koch are called so.
  const isPost = titleLikeness(first) > 0 && givenName(first) === 0;
  if (!first || isOther || isPost) return null;
  const span = claim.span && { ...claim.span, end: claim.span.start + first.length };
  return first === claim.value ? claim : { ...claim, value: first, ...(span ? { span } : {}) };
}

/** "Fa. Lehmann & Sohn", "ditta Moretti": the word for a firm is none of its name. */
const FIRM = /^(?:Fa\.|Firma|Ditta|Entreprise|Sté|Société|Empresa|M\/s\.?)\s+(?=\p{Lu})/iu;
function firmOf(claim: Claim): Claim {
  const word = claim.field === 'companyName' ? (FIRM.exec(claim.value)?.[0] ?? '') : '';
  if (!word) return claim;
  const span = claim.span && { ...claim.span, start: claim.span.start + word.length };
  return { ...claim, value: claim.value.slice(word.length), ...(span ? { span } : {}) };
}

const PARTICLES = '(?:(?:de|da|do|dos|das|di|del|della|van|von|der|den|la|le|el|al)\\s){0,3}';
/** "Jean-Luc" and "la Tour": a family name that was taken for the firm behind a given name. */
function withFamilyName(claims: readonly Claim[], note: string): Claim[] {
  const [name, firm] = (['fullName', 'companyName'] as const).map((of) =>
    claims.find(({ field }) => field === of),
  );
  const [given, family] = [name?.span, firm?.span];
  if (!name || !firm || !given || !family || companyLikeness(firm.value) > 0) return [...claims];
  if (isFamilyName(name.value.split(' ').at(-1) ?? '')) return [...claims];
  const isJoined = new RegExp(`^\\s${PARTICLES}$`, 'iu').test(note.slice(given.end, family.start));
  const next = readTail(note, family.end, []).find(({ field }) => field === 'companyName');
  if (!isJoined || !next || companyLikeness(next.value) === 0) return [...claims];
  const value = note.slice(given.start, family.end);
  return [
    { ...name, value, span: { ...given, end: family.end } },
    ...claims.filter((claim) => claim !== name && claim !== firm),
    {
      field: 'companyName',
      value: next.value,
      confidence: AFTER_A_NAME,
      span: { part: 'text', start: next.start, end: next.end },
      source: 'the note',
    },
  ];
}
const AFTER_A_NAME = 0.75;

/** "Eisdiele Venezia (Marco Bianchi)": a firm that was taken for the name, and the name for the firm. */
function inTheirPlaces(claims: readonly Claim[]): Claim[] {
  const [name, firm] = (['fullName', 'companyName'] as const).map((of) =>
    claims.find(({ field }) => field === of),
  );
  const isTurned =
    name &&
    firm &&
    companyLikeness(name.value) > 0 &&
    givenName(name.value) === 0 &&
    companyLikeness(firm.value) === 0 &&
    givenName(firm.value) > 0;
  if (!isTurned) return [...claims];
  return claims.map((claim) => {
    if (claim === name)
      return { ...claim, field: 'companyName', confidence: Math.min(claim.confidence, LIKELY) };
    return claim === firm
      ? { ...claim, field: 'fullName', confidence: Math.min(claim.confidence, LIKELY) }
      : claim;
  });
}

/** "gesprochen stationsleitung", "the manager": a word of the talk before a post is none of it. */
const TALK = new RegExp(`^(?:${alternatives('tookPlace')}|the|der|die|la|le|el|il|o|a|de|het)\\s+`, 'iu');
function withoutLead(claim: Claim): Claim {
  const lead = claim.field === 'jobTitle' ? (TALK.exec(claim.value)?.[0].length ?? 0) : 0;
  const span = claim.span && { ...claim.span, start: claim.span.start + lead };
  return lead ? { ...claim, value: claim.value.slice(lead), ...(span ? { span } : {}) } : claim;
}

/** A given name alone, as the whole name where the note says that further on: "met Luis at the fair, Luis Carvalho". */
function inFull(claim: Claim, note: string): Claim {
  if (claim.field !== 'fullName' || !/^\p{Lu}[\p{L}\p{M}'’-]+$/u.test(claim.value)) return claim;
  const isFamily = givenName(claim.value) === 0;
  const isLowered = note === note.toLowerCase();
  const bracketed =
    claim.span && /^\s?\((?<family>\p{L}[\p{L}'’-]+)\)/u.exec(note.slice(claim.span.end))?.groups?.family;
  if (!isFamily && bracketed && isTheirs(bracketed, note))
    return { ...claim, value: `${claim.value} ${bracketed}` };
  const beside = [...note.matchAll(fullerName(claim.value, isFamily, isLowered))].find(({ groups }) =>
    isFamily
      ? !HONORIFIC.test(groups?.given ?? '') && !NOT_A_NAME.test(groups?.given ?? '')
      : !isLowered || isTheirs(groups?.family ?? '', note),
  );
  const written = beside?.[0] ?? '';
  const value = isFamily || isLowered ? setCase(written) : written;
  if (!beside || companyLikeness(value) > 0 || titleLikeness(value) > 0 || !looksLikeName(value))
    return claim;
  return { ...claim, value, span: { part: 'text', start: beside.index, end: beside.index + written.length } };
}

/** Whether a word is a family name: one that we know, or one that the note says again, mostly in the name of the firm. */
const isTheirs = (word: string, note: string): boolean =>
  isFamilyName(word) || note.toLowerCase().split(word.toLowerCase()).length > 2;

/** Where a family name stands behind its given name, or a given name before its family name. */
const fullerName = (name: string, isFamily: boolean, isLowered: boolean): RegExp =>
  isFamily
    ? new RegExp(`(?<![\\p{L}])(?<given>[\\p{L}][\\p{L}\\p{M}'’-]+)\\s${name}(?![\\p{L}])`, 'giu')
    : isLowered
      ? new RegExp(`(?<![\\p{L}])${name}\\s(?<family>[\\p{L}][\\p{L}\\p{M}'’-]+)`, 'giu')
      : new RegExp(`(?<![\\p{L}])${name}\\s(?<family>${WORD})`, 'gu');

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
  const kept = withFamilyName(inTheirPlaces(claims), note)
    .filter((claim, _, all) => /\p{L}/u.test(claim.value) && isTitle(claim, all, note) && !isDay(claim, note))
    .flatMap((claim) => {
      const named = nameOf(claim, note);
      return named ? [withoutLead(firmOf(untilWhen(inFull(named, note), note)))] : [];
    })
    .flatMap((claim, _, all) => partedFromFirm(claim, all, note));
  if (kept.some(({ field }) => field === 'fullName')) return kept;
  const polite = byHonorific(note);
  const named = polite
    ? [
        {
          field: polite.field,
          value: polite.value,
          confidence: LIKELY,
          span: { part: 'text' as const, start: polite.start, end: polite.end },
          source: 'the note',
        },
      ]
    : calledSo(note);
  return [...named, ...kept];
}
