import type { Parsed } from '@emporikon/contract';

/** What a ledger is narrowed by; '' for all. */
export interface LedgerFilters {
  kind: string;
  q: string;
  with: string;
  by: string;
  /** `2026-03`: from that month back. */
  upTo: string;
}

export const blankFilters = (): LedgerFilters => ({ kind: '', q: '', with: '', by: '', upTo: '' });

/** Whether less than everything is shown. */
export const isNarrowed = (filters: LedgerFilters): boolean => Object.values(filters).some(Boolean);

/** The filters as the API takes them. */
export const queryOf = (filters: LedgerFilters): Partial<Parsed<'GET /api/ledger/months', 'query'>> =>
  Object.fromEntries(
    Object.entries(filters)
      .map(([name, value]: [string, string]) => [name, value.trim()])
      .filter(([, value]) => value),
  );
