import { companyKey } from '../../people/companies';
import { localPart } from '../../people/emails';
import { isRoleName, nameOverlap } from '../../people/names';
import type { PageKind, Said } from '../types';
import { valueOf, type Fact, type Subject } from './facts';
import type { Outline } from './outline';
import { isPersonName, readPlain, type readOpenGraph } from './plain';

/** All that speaks on a page, before it is weighed. */
export interface Voices {
  people: Subject[];
  companies: Subject[];
  graph: ReturnType<typeof readOpenGraph>;
  conversation: Said[];
  host: string | null;
}

/** The facts of whom a page is about: one person, one firm, or who writes to us; none for a list. */
export function factsFor(
  kind: PageKind,
  page: { outline: Outline; text: string },
  voices: Voices,
  ourPeople: readonly string[],
): Fact[] {
  if (kind === 'list' || kind === 'other') return [];
  if (kind === 'messages') return partnerFacts(voices, ourPeople);
  const plain = readPlain(page.outline, page.text, voices.host);
  const first = voices.companies[0]?.facts ?? [];
  if (kind === 'profile') {
    const heading = page.outline.headings[0]?.text ?? '';
    const isFirms = companyKey(heading) === companyKey(first[0]?.value ?? '') && first.length > 0;
    return withoutSites(
      ofOnePerson(voices.people, [voices.graph.person, plain, isFirms ? [...first] : []], page.outline),
    );
  }
  const contact = plain.filter((one) => !['fullName', 'jobTitle', 'companyName'].includes(one.field));
  return [...first, ...voices.graph.company, ...contact];
}

/** Where somebody has an address of their own, "hello@" at the foot of the page is the site's. */
function withoutSites(facts: Fact[]): Fact[] {
  const isRole = (one: Fact): boolean => one.field === 'email' && isRoleName(localPart(one.value));
  return facts.some((fact) => fact.field === 'email' && !isRole(fact))
    ? facts.filter((fact) => !isRole(fact))
    : facts;
}

/** Whom a conversation is with: the first who writes and is not one of ours. */
function partnerFacts({ conversation, people }: Voices, ours: readonly string[]): Fact[] {
  const partner = conversation.find(
    (one) => one.from && !ours.some((name) => nameOverlap(name, one.from) > 0.9),
  );
  if (!partner) return [];
  const card = people.find((person) => nameOverlap(valueOf(person, 'fullName'), partner.from) > 0.9);
  return card?.facts ?? [{ field: 'fullName', value: partner.from, origin: 'h-card' }];
}

/** The voices that speak of the same person: those with the name most of them give, and those that give none. */
function ofOnePerson(subjects: readonly Subject[], others: readonly Fact[][], outline: Outline): Fact[] {
  const heading = outline.headings.find((heading) => isPersonName(heading.text))?.text ?? '';
  const main =
    subjects.find((subject) => heading && nameOverlap(valueOf(subject, 'fullName'), heading) > 0.9) ??
    subjects[0];
  const name = main ? valueOf(main, 'fullName') : '';
  const same = subjects.filter(
    (subject) => subject === main || nameOverlap(valueOf(subject, 'fullName'), name) > 0.9,
  );
  const rival = subjects.filter((subject) => !same.includes(subject) && isOtherVoice(subject, same));
  return [...same.flatMap((one) => one.facts), ...rival.flatMap((one) => one.facts), ...others.flat()];
}

/** A person told of in another vocabulary than the ones already taken is a rival account, not a second person. */
const isOtherVoice = (one: Subject, taken: readonly Subject[]): boolean =>
  !taken.some((other) => other.facts[0]?.origin === one.facts[0]?.origin);
