import { STANDINGS } from './standing';
import { LEAD_STATUSES, nextStatuses, type LeadStatus } from './statuses';

export const COMPANY_KINDS = ['firm', 'household'] as const;
export type CompanyKind = (typeof COMPANY_KINDS)[number];

/**
 * What the program goes by. An organisation renames these, and adds terms of its own that each count as one of them: a
 * "hot prospect" is a prospect wherever that matters.
 */
export const BUILT_IN_TERMS = {
  standing: STANDINGS,
  leadStatus: LEAD_STATUSES,
  companyKind: COMPANY_KINDS,
} as const;
export type TermList = keyof typeof BUILT_IN_TERMS;
export const TERM_LISTS = Object.keys(BUILT_IN_TERMS) as unknown as readonly [TermList, ...TermList[]];

/** One standing, status or kind. A built-in one is called by its key, and counts as itself. */
export interface Term {
  list: TermList;
  key: string;
  name: string;
  countsAs: string;
  /** Whether it is still offered. */
  isRetired: boolean;
}
/** A term as a record holds it: what it counts as, and which one of the organisation's own it is, if it is one. */
export interface Held {
  countsAs: string;
  own: string | null;
}

/** What a term of one's own can count as. A lead is converted by its conversion alone. */
export const countable = (list: TermList): readonly string[] =>
  (BUILT_IN_TERMS[list] as readonly string[]).filter((key) => key !== 'converted');

export const isOwnTerm = ({ key, countsAs }: Pick<Term, 'key' | 'countsAs'>): boolean => key !== countsAs;

/** How a record holds the term of this key; null where there is none such on the list. */
export function heldAs(terms: readonly Term[], list: TermList, key: string): Held | null {
  const term = terms.find((each) => each.list === list && each.key === key);
  return term ? { countsAs: term.countsAs, own: isOwnTerm(term) ? key : null } : null;
}

/** The keys of the statuses that a lead can be set to by hand: where it may go, and others that count as what it is. */
export function nextLeadStatuses(terms: readonly Term[], status: LeadStatus, own: string | null): string[] {
  const open: readonly string[] = status === 'converted' ? [] : [...nextStatuses(status), status];
  return terms
    .filter(({ list, countsAs, isRetired }) => list === 'leadStatus' && !isRetired && open.includes(countsAs))
    .map(({ key }) => key)
    .filter((key) => key !== (own ?? status));
}

/** What a term is called; by its key where it is not known. */
export const termName = (terms: readonly Pick<Term, 'key' | 'name'>[], key: string): string =>
  terms.find((each) => each.key === key)?.name ?? key;

/** A key for a term of this name that none of the others has. */
export function termKey(name: string, taken: readonly string[]): string {
  const plain = name.normalize('NFKD').toLowerCase().replace(/\p{M}/gu, '');
  const stem = plain.replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'term';
  for (let at = 1; ; at++) {
    const key = at === 1 ? stem.slice(0, 40) : `${stem.slice(0, 36)}-${at}`;
    if (!taken.includes(key)) return key;
  }
}
