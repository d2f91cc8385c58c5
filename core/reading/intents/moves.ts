import { alternatives, type Kind } from '../../words/compile';
import { flatten, RELATIVE, WEEKDAY } from './dateWords';

/** What a next move is done by. */
export type MoveKind = 'call' | 'mail' | 'meeting' | 'visit' | 'task';
export type EntryKind = 'note' | 'call' | 'mail' | 'meeting' | 'visit';

/** Something to be done, and where the verb that says so stands. */
export interface ToDo {
  kind: MoveKind;
  /** What stands before it and only says that it is ours to do: "I'll", "bitte", "il faut". */
  lead: { start: number; end: number };
  verb: { start: number; end: number };
}

/** Something that took place, and where the words that say so stand. */
export interface Done {
  kind: EntryKind;
  side: 'ours' | 'theirs';
  verb: { start: number; end: number };
  /** Who is named as having done it: "Rui called"; null for us, and for "they". */
  subject: string | null;
}

type Verbs<K> = readonly (readonly [RegExp, K])[];

const EDGE = '(?![\\p{L}\\p{N}])';
const verb = (...kinds: Kind[]): string => `(?<verb>${kinds.map(alternatives).join('|')})${EDGE}`;
const optional = (kind: Kind, most: number): string =>
  `(?<lead>(?:(?:${alternatives(kind)})\\s+){0,${most}})`;
const starting = (source: string): RegExp => new RegExp(`^${source}`, 'u');

/** German and Dutch put the verb last; what follows it is a day, or what it is about. */
const BEHIND_LAST = `(?=[.!]?\\s*$|,|\\s(?:${alternatives('beforeDay')}|wegen|uber|over|met|mit|${Object.keys(RELATIVE).join('|')})\\b|\\s(?:${WEEKDAY}))`;
const OURS = `(?!(?:${alternatives('notOursFirst')})\\s)(?!.*\\b(?:${alternatives('notOurs')})\\b)`;
const last = (lead: string, source: string): RegExp =>
  starting(`${OURS}${lead}(?:[^\\s,;]+\\s+){0,8}?${source}${BEHIND_LAST}`);

const TO_DO_LEAD = optional('toDoLead', 2);
const MOVE_KINDS: readonly MoveKind[] = ['call', 'mail', 'meeting', 'visit', 'task'];
const TO_DO: Verbs<MoveKind> = [
  ...MOVE_KINDS.map((kind) => [starting(TO_DO_LEAD + verb(`toDo.${kind}`)), kind] as const),
  ...MOVE_KINDS.map((kind) => [last(TO_DO_LEAD, verb(`toDoLast.${kind}`)), kind] as const),
];
const DONE_KINDS = ['visit', 'call', 'mail', 'meeting'] as const;
const DONE_LEAD = optional('didLead', 1);
const OURS_DONE: Verbs<EntryKind> = [
  ...DONE_KINDS.map((kind) => [starting(DONE_LEAD + verb(`did.${kind}`)), kind] as const),
  ...DONE_KINDS.map((kind) => [last('', verb(`didLast.${kind}`)), kind] as const),
];
const THEIR_KINDS = ['call', 'mail', 'visit'] as const;
/** Said of somebody who is named before it. */
const THEY_DID: Verbs<EntryKind> = THEIR_KINDS.map((kind) => [
  starting(verb(`theyDid.${kind}`, `theirs.${kind}`)),
  kind,
]);
/** Said with nobody named, as in a telegram. */
const THEIRS: Verbs<EntryKind> = THEIR_KINDS.map((kind) => [starting(verb(`theirs.${kind}`)), kind]);
const BY_THEM = starting(`(?:${alternatives('they')})\\s+`);
/** A name of one to four words before the verb, the shortest first. */
const BY_NAME = [1, 2, 3, 4].map((words) =>
  starting(`(?:\\p{Lu}[\\p{L}\\p{M}'’.&-]*\\s+){${String(words)}}`),
);
const NO_SUBJECT = starting(`(?:${alternatives('notASubject')})$`);

/** What a text asks to be done, said as an order or as our promise: "send quote", "Frau Vogt zurückrufen"; null for nothing. */
export function findToDo(text: string): ToDo | null {
  const flat = flatten(text);
  for (const [pattern, kind] of TO_DO) {
    const match = pattern.exec(flat);
    const { lead = '', verb = '' } = match?.groups ?? {};
    if (!match) continue;
    const end = match[0].length;
    return { kind, lead: { start: 0, end: lead.length }, verb: { start: end - verb.length, end } };
  }
  return null;
}

/** The kind of thing to do that a text begins with; null when it begins otherwise. */
export const moveKindOf = (text: string): MoveKind | null => findToDo(text)?.kind ?? null;

function firstOf(
  patterns: Verbs<EntryKind>,
  flat: string,
): { kind: EntryKind; start: number; end: number } | null {
  for (const [pattern, kind] of patterns) {
    const found = pattern.exec(flat);
    if (!found) continue;
    const end = found[0].length;
    return { kind, start: end - (found.groups?.verb?.length ?? 0), end };
  }
  return null;
}

/** What may stand before the verb as the one who did it: "she", "Frau Vogt", "Rui Lopes". */
function* subjects(text: string, flat: string): Generator<{ name: string | null; length: number }> {
  const they = BY_THEM.exec(flat)?.[0];
  if (they) yield { name: null, length: they.length };
  for (const pattern of BY_NAME) {
    const found = pattern.exec(text)?.[0];
    if (!found) return;
    const words = flat.slice(0, found.length).trim().split(/\s+/);
    if (words.some((word) => NO_SUBJECT.test(word))) return;
    yield { name: found.trim(), length: found.length };
  }
}

/** What a text says has taken place, and from whose side: "called her", "she rang back", "Marie a rappelé"; null for nothing. */
export function findDone(text: string): Done | null {
  const flat = flatten(text);
  for (const { name, length } of subjects(text, flat)) {
    const found = firstOf(THEY_DID, flat.slice(length));
    if (found)
      return { kind: found.kind, side: 'theirs', verb: { start: 0, end: length + found.end }, subject: name };
  }
  const theirs = firstOf(THEIRS, flat);
  const found = theirs ?? firstOf(OURS_DONE, flat);
  if (!found) return null;
  return {
    kind: found.kind,
    side: theirs ? 'theirs' : 'ours',
    verb: { start: found.start, end: found.end },
    subject: null,
  };
}
