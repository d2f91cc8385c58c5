import { companyKey } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { copyRows, orderedId } from './copy';
import type { RowData } from './source';

interface Wanted {
  id: string;
  name: string;
  key: string;
  domain: string | null;
}

/** Finds companies by the key of their names, where nobody has another domain under it first. */
export async function companyIds(context: Context, rows: readonly RowData[]): Promise<Map<string, string>> {
  const keys = [
    ...new Set(rows.map((data) => (data.company ? companyKey(data.company) : '')).filter(Boolean)),
  ];
  if (!keys.length) return new Map();
  const found = await context.sequelize.query<{ id: string; name_key: string }>(
    'SELECT DISTINCT ON (name_key) id, name_key FROM companies WHERE name_key = ANY($1::text[]) ORDER BY name_key, created_at',
    { bind: [keys], type: QueryTypes.SELECT, transaction: context.tx },
  );
  const ids = new Map(found.map((one) => [one.name_key, one.id]));
  const missing = rows.filter((data) => data.company && !ids.has(companyKey(data.company)));
  const domains = missing.map(domainOf).filter((one): one is string => one !== null);
  if (!domains.length) return ids;
  const owners = await context.sequelize.query<{ id: string; domain: string }>(
    'SELECT id, domain FROM companies WHERE domain = ANY($1::text[])',
    { bind: [[...new Set(domains)]], type: QueryTypes.SELECT, transaction: context.tx },
  );
  const byDomain = new Map(owners.map((owner) => [owner.domain, owner.id]));
  for (const data of missing) {
    const id = byDomain.get(domainOf(data) ?? '');
    if (id && data.company) ids.set(companyKey(data.company), id);
  }
  return ids;
}

const domainOf = (data: RowData): string | null =>
  data.emails.map((email) => companyDomain(email.normalized)).find((one) => one !== null) ?? null;

/**
 * Makes the companies that some rows name and nobody has, one for each name and each domain.
 * @returns the ids of those that were made, by the key of the name
 */
export async function makeCompanies(
  context: Context,
  rows: readonly RowData[],
  ownerId: string,
): Promise<Map<string, string>> {
  const known = await companyIds(context, rows);
  const byKey = new Map<string, Wanted>();
  const byDomain = new Set<string>();
  for (const data of rows) {
    const key = data.company ? companyKey(data.company) : '';
    const domain = domainOf(data);
    if (!key || known.has(key) || byKey.has(key) || (domain !== null && byDomain.has(domain))) continue;
    if (domain) byDomain.add(domain);
    byKey.set(key, { id: orderedId(context.now().getTime()), name: data.company ?? '', key, domain });
  }
  const now = context.now().toISOString();
  await copyRows(
    context,
    'companies',
    ['id', 'name', 'name_key', 'domain', 'owner_id', 'created_at', 'updated_at'],
    [...byKey.values()].map((one) => [one.id, one.name, one.key, one.domain, ownerId, now, now]),
  );
  return new Map([...byKey].map(([key, one]) => [key, one.id]));
}
