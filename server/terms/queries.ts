import type { Term } from '@emporikon/contract/terms';
import { asksFor } from '@emporikon/core/query/replace';
import type { TermList } from '@emporikon/core/lifecycle/terms';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { cappedCount } from '../db/counting';
import { TermRow } from '../db/models/terms';
import { ViewRow } from '../db/models/views';
import { notFound } from '../http/problems';

/** Where a record of each list holds one of the organisation's own terms, and by which fields questions ask for it. */
export const HOLDERS: Readonly<
  Record<
    TermList,
    { kind: 'person' | 'lead' | 'company'; table: string; column: string; fields: ReadonlySet<string> }
  >
> = {
  standing: { kind: 'person', table: 'people', column: 'standing', fields: new Set(['standing']) },
  leadStatus: { kind: 'lead', table: 'leads', column: 'status', fields: new Set(['status']) },
  companyKind: { kind: 'company', table: 'companies', column: 'kind', fields: new Set(['companyKind']) },
};

export async function listTerms(context: Context): Promise<Term[]> {
  const rows = await TermRow.findAll({ order: ['list', 'position', 'name'], transaction: context.tx });
  return rows.map(({ id, version, list, key, name, countsAs, retiredAt }) => ({
    ...{ id, version, list, key, name, countsAs },
    isRetired: Boolean(retiredAt),
  }));
}

/** @throws 404 */
export async function loadTerm(context: Context, id: string): Promise<TermRow> {
  const term = await TermRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!term) throw notFound('There is no such standing, status or kind.');
  return term;
}

/** Views that ask for a term, as far as whoever asks sees them. */
export async function viewsWith(context: Context, { list, key }: TermRow): Promise<ViewRow[]> {
  const views = await ViewRow.findAll({ transaction: context.tx });
  return views.filter(({ query }) => query.filter && asksFor(query.filter, HOLDERS[list].fields, key));
}

export async function usesOfTerm(context: Context, id: string): Promise<{ records: number; uses: string[] }> {
  const term = await loadTerm(context, id);
  const { table, column } = HOLDERS[term.list];
  const [row] = await context.sequelize.query<{ records: number }>(
    `SELECT ${cappedCount(`${table} r WHERE coalesce(r.${column}_term, r.${column}) = :key`)} AS records`,
    { replacements: { key: term.key }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const views = await viewsWith(context, term);
  return { records: row?.records ?? 0, uses: views.map(({ name }) => `the view “${name}”`) };
}
