import { BULK_KINDS, type BulkKind } from '@emporikon/core/bulk/types';
import type { RecordKind } from '@emporikon/core/query/types';

/** Every kind of record: where its views are, and what its own pages' addresses begin with; null where it has none. */
export const VIEWED = {
  person: { views: '/people/views', record: '/people/' },
  company: { views: '/companies/views', record: '/companies/' },
  lead: { views: '/leads/views', record: '/leads/' },
  deal: { views: '/deals/views', record: '/deals/' },
  task: { views: '/round/views', record: null },
  project: { views: '/deals/projects/views', record: '/projects/' },
  case: { views: '/deals/cases/views', record: '/cases/' },
  entry: { views: '/round/history', record: null },
  capture: { views: '/arrivals/views', record: '/arrivals/' },
} as const satisfies Record<RecordKind, { views: string; record: string | null }>;
export type ViewedKind = RecordKind;
export const VIEWED_KINDS = Object.keys(VIEWED) as ViewedKind[];

/** Whether many records of a kind can be changed at once. */
export const isBulkKind = (kind: ViewedKind): kind is BulkKind =>
  (BULK_KINDS as readonly ViewedKind[]).includes(kind);

/** The tables whose changes may change what a view shows. */
export const TABLES: Readonly<Record<ViewedKind, readonly string[]>> = {
  person: ['people', 'companies', 'contact_points', 'ledger_links', 'tasks', 'deals', 'list_members'],
  company: ['companies', 'people', 'deals', 'tasks', 'ledger_links'],
  lead: ['leads', 'people', 'companies', 'tasks'],
  deal: ['deals', 'companies', 'tasks', 'ledger_links'],
  task: ['tasks', 'people', 'companies'],
  project: ['projects', 'companies', 'tasks'],
  case: ['cases', 'people', 'companies', 'tasks'],
  entry: ['ledger_entries', 'ledger_links', 'people', 'companies'],
  capture: ['captures'],
};
/** Where the links of a column lead. */
export const LINKED: Readonly<Record<string, string>> = { companyName: '/companies', fullName: '/people' };
