import { companyKey } from '../../people/companies';
import { nameOverlap } from '../../people/names';
import type { PageKind, Said } from '../types';
import { valueOf, type Fact, type Subject } from './facts';
import type { Outline } from './outline';
import { isPersonName } from './names';
import type { readOpenGraph } from './openGraph';
import type { Sheet } from './sheet';
import { readCompany } from './company';
import type { Account } from './account';

/** All that speaks on a page, before it is weighed. */
export interface Voices {
  people: Subject[];
  companies: Subject[];
  graph: ReturnType<typeof readOpenGraph>;
  conversation: Said[];
  /** What the words of the page tell, as they are shown. */
  account: Account | null;
}

/** The facts of whom a page is about: one person, one firm, or who writes to us; none for a list. */
export function factsFor(kind: PageKind, sheet: Sheet, voices: Voices, ourPeople: readonly string[]): Fact[] {
  if (kind === 'list' || kind === 'other') return [];
  if (kind === 'messages') return partnerFacts(voices, ourPeople);
  const first = voices.companies[0]?.facts ?? [];
  if (kind === 'company') {
    const known = valueOf({ kind: 'company', facts: first, url: null }, 'companyName');
    return [...first, ...voices.graph.company, ...readCompany(sheet, known)];
  }
  const { account } = voices;
  const heading = sheet.outline.headings[0]?.text ?? '';
  const isFirms = first.length > 0 && companyKey(heading) === companyKey(first[0]?.value ?? '');
  // A page that only names whom to ask is a firm's: that is where they work.
  const isAsked = account !== null && account.by === 'lead';
  const firms = isFirms ? [...first] : isAsked ? first.filter((fact) => fact.field === 'companyName') : [];
  return ofOnePerson(voices.people, [voices.graph.person, account?.facts ?? [], firms], sheet.outline);
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

/**
 * The voices that speak of the same person: those with the name most of them give, and those that give none. What only says how
 * somebody else on the page is reached is left out.
 */
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
  const elsewhere = new Set(
    subjects.filter((subject) => !same.includes(subject) && !rival.includes(subject)).flatMap(contactsOf),
  );
  const own = [...same, ...rival].flatMap((one) => one.facts);
  for (const fact of own) elsewhere.delete(fact.value);
  return [...own, ...others.flat().filter((fact) => !elsewhere.has(fact.value))];
}

const contactsOf = ({ facts }: Subject): string[] =>
  facts.filter((fact) => fact.field === 'email' || fact.field === 'phone').map((fact) => fact.value);

/** A person told of in another vocabulary than the ones already taken is a rival account, not a second person. */
const isOtherVoice = (one: Subject, taken: readonly Subject[]): boolean =>
  !taken.some((other) => other.facts[0]?.origin === one.facts[0]?.origin);
