import type { RecordKind } from '@emporikon/core/query/types';

/** Kinds of records that have views in the interface: where those are, and where a record is. */
export const VIEWED = {
  person: { views: '/people/views', record: '/people' },
  company: { views: '/companies/views', record: '/companies' },
  lead: { views: '/leads/views', record: '/leads' },
  deal: { views: '/deals/views', record: '/deals' },
  task: { views: '/round/views', record: null },
} as const satisfies Partial<Record<RecordKind, { views: string; record: string | null }>>;
export type ViewedKind = keyof typeof VIEWED;
export const VIEWED_KINDS = Object.keys(VIEWED) as ViewedKind[];

/** The tables whose changes may change what a view shows. */
export const TABLES: Readonly<Record<ViewedKind, readonly string[]>> = {
  person: ['people', 'companies', 'contact_points', 'ledger_links', 'tasks', 'deals', 'list_members'],
  company: ['companies', 'people', 'deals', 'tasks', 'ledger_links'],
  lead: ['leads', 'people', 'companies', 'tasks'],
  deal: ['deals', 'companies', 'tasks', 'ledger_links'],
  task: ['tasks', 'people', 'companies'],
};
/** Where the links of a column lead. */
export const LINKED: Readonly<Record<string, string>> = { companyName: '/companies', fullName: '/people' };
