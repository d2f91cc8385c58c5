import type { EventFacts } from '../formats/calendarObject';

/** What is compared as one: where only its end moved on one side and its beginning on the other, that is no time anybody chose. */
const PARTS = [['title'], ['start', 'end', 'allDay'], ['place'], ['notes']] as const;
export type FactsPart = 'title' | 'time' | 'place' | 'notes';
const NAMES: readonly FactsPart[] = ['title', 'time', 'place', 'notes'];

export const isSameFacts = (a: EventFacts, b: EventFacts): boolean =>
  PARTS.every((keys) => keys.every((key) => a[key] === b[key]));

/** Which parts of an event are different. */
export const differences = (a: EventFacts, b: EventFacts): FactsPart[] =>
  NAMES.filter((_, index) => (PARTS[index] ?? []).some((key) => a[key] !== b[key]));

/**
 * Brings an event together that may have been changed in two calendars since they were last the same. What only one of
 * them changed is taken from it.
 * @param base what both said last
 * @returns the facts, with ours where both changed the same part differently, and the parts of which that is so
 */
export function mergeFacts(
  base: EventFacts,
  ours: EventFacts,
  theirs: EventFacts,
): { facts: EventFacts; clashes: FactsPart[] } {
  const facts = { ...ours };
  const clashes: FactsPart[] = [];
  PARTS.forEach((keys, index) => {
    const isSame = (a: EventFacts, b: EventFacts): boolean => keys.every((key) => a[key] === b[key]);
    if (isSame(base, theirs) || isSame(ours, theirs)) return;
    if (isSame(base, ours)) for (const key of keys) Object.assign(facts, { [key]: theirs[key] });
    else clashes.push(NAMES[index] ?? 'title');
  });
  return { facts, clashes };
}

/** Fewer than so many may go at once without a question. */
const FEW = 5;

/** Whether so many events went from a calendar at once that it is likelier that its server forgot them. */
export const isForgetful = (known: number, gone: number): boolean => gone >= FEW && gone * 2 > known;
