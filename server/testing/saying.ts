import type { Client } from './harness';

interface Said {
  kind?: string;
  side?: string;
  headline: string;
  at?: string;
  outcome?: string;
  body?: string;
}

/** Makes people and companies, enters what is said with them, and reads it again: as one user, where no other is named. */
export const saying = (me: Client) => ({
  person: async (fullName: string, companyId: string | null = null): Promise<string> =>
    (await me.call('POST /api/people', { body: { fullName, companyId } })).body.person.id,
  company: async (name: string): Promise<string> =>
    (await me.call('POST /api/companies', { body: { name, domain: null } })).body.company.id,
  enter: (by: Client, said: Said, ...about: Record<string, string>[]) =>
    by.call('POST /api/ledger/entries', { body: { kind: 'note', side: 'within', ...said, about } }),
  ledger: async (query: Record<string, string>, by = me) =>
    (await by.call('GET /api/ledger', { query })).body,
  headlines: async (query: Record<string, string>, by = me): Promise<string[]> =>
    (await by.call('GET /api/ledger', { query })).body.items.map((entry) => entry.headline),
});
