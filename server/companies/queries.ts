import { placeOfRecord } from '../places/queries';
import type { Reply } from '@emporikon/contract';
import type { CompanyDossier, CompanyRow } from '@emporikon/contract/companies';
import { QueryTypes } from 'sequelize';
import { asClaims } from '../captures/view';
import type { Context } from '../commands/context';
import { cappedCount } from '../db/counting';
import { ClaimRow } from '../db/models/captures';
import { Company, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';
import { inOrderOf, sortedIds, type SortKey } from '../http/sorting';
import { isNewFor } from '../ledger/looks';
import { turnOf } from '../ledger/queries';
import { linkedWork } from '../people/queries';
import { mergesInto } from '../lookalikes/merged';
import { toldApartFrom } from '../lookalikes/toldApart';
import { nameHolds } from '../search/filter';
import { openMoves } from '../tasks/queries';
import { loadCompany } from './commands';

interface Row {
  id: string;
  name: string;
  domain: string | null;
  people: number;
  industry: string | null;
  employees: number | null;
  country: string | null;
  open_deals: number;
  updated_at: Date;
}

const SELECT = `SELECT c.id, c.name, c.domain, c.industry, c.employees, c.country, c.updated_at, ${cappedCount('people p WHERE p.company_id = c.id')} AS people,
    (SELECT count(*)::int FROM deals d JOIN stages s ON s.id = d.stage_id WHERE d.company_id = c.id AND s.kind = 'open') AS open_deals FROM companies c`;

const asRow = (row: Row): CompanyRow => ({
  id: row.id,
  name: row.name,
  domain: row.domain,
  industry: row.industry,
  employees: row.employees,
  country: row.country,
  people: row.people,
  openDeals: row.open_deals,
  updatedAt: row.updated_at.toISOString(),
});

const SORTS = {
  name: { sql: 'c.name', type: 'text', isRequired: true },
  domain: { sql: 'c.domain', type: 'text' },
  industry: { sql: 'c.industry', type: 'text' },
  country: { sql: 'c.country', type: 'text' },
  employees: { sql: 'c.employees', type: 'integer' },
} as const satisfies Record<string, SortKey>;

interface CompanyQuery {
  q?: string;
  industry?: string;
  country?: string;
  technology?: string;
  atLeast?: number;
  atMost?: number;
  news?: 'mine';
  sort: keyof typeof SORTS;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}

/** Companies by one of their columns, by name at first; the largest first where it is by size. */
export async function listCompanies(
  context: Context,
  {
    sort,
    direction = sort === 'employees' ? 'desc' : 'asc',
    cursor,
    limit,
    q = '',
    ...narrowed
  }: CompanyQuery,
): Promise<{ items: CompanyRow[]; next: string | null }> {
  const held = nameHolds('c', 'c.id', q);
  const conditions = {
    industry: 'c.industry = :industry',
    country: 'c.country = :country',
    technology: 'c.technologies @> ARRAY[:technology]::text[]',
    atLeast: 'c.employees >= :atLeast',
    atMost: 'c.employees <= :atMost',
    news: isNewFor('companies', 'c.id'),
  };
  const used = Object.entries(conditions).filter(
    ([name]) => narrowed[name as keyof typeof conditions] !== undefined,
  );
  const { ids, next } = await sortedIds(
    context,
    {
      from: 'companies c',
      id: 'c.id',
      where: [held.sql, ...used.map(([, sql]) => sql)].join(' AND '),
      replacements: { ...held.replacements, ...narrowed, reader: context.actor?.id ?? null },
    },
    { sort, key: SORTS[sort], direction, cursor, limit },
  );
  const rows = ids.length
    ? await context.sequelize.query<Row>(`${SELECT} WHERE c.id IN (:ids)`, {
        replacements: { ids },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      })
    : [];
  return { items: inOrderOf(ids, rows).map(asRow), next };
}

/** What companies there are, for narrowing a view of them: the commonest first. */
export async function companyKinds(context: Context): Promise<Reply<'GET /api/companies/kinds'>> {
  const count = (kind: string): Promise<{ name: string; companies: number }[]> =>
    context.sequelize.query(
      `SELECT tag AS name, sum(records)::int AS companies FROM tag_counts WHERE kind = :kind
        GROUP BY tag HAVING sum(records) > 0 ORDER BY companies DESC, name LIMIT 60`,
      { replacements: { kind }, type: QueryTypes.SELECT, transaction: context.tx },
    );
  return {
    industries: await count('industry'),
    countries: await count('country'),
    technologies: await count('technology'),
  };
}

/** Everything the dossier of a company shows. @throws 404 */
export async function companyDossier(context: Context, id: string): Promise<CompanyDossier> {
  const company = await loadCompany(context, id);
  const claims = await asClaims(
    context,
    await ClaimRow.findAll({
      where: { companyId: id, fate: 'current' },
      order: [['createdAt', 'DESC']],
      transaction: context.tx,
    }),
  );
  const people = await Person.findAll({
    where: { companyId: id },
    order: ['fullName'],
    limit: 200,
    transaction: context.tx,
  });
  const parent = company.parentId
    ? await Company.findByPk(company.parentId, { transaction: context.tx })
    : null;
  const branches = await Company.findAll({
    where: { parentId: id },
    order: ['name'],
    limit: 100,
    transaction: context.tx,
  });
  const moves = await openMoves(context, 'company_id', id);
  const owner = company.ownerId ? await User.findByPk(company.ownerId, { transaction: context.tx }) : null;
  return {
    id,
    place: await placeOfRecord(context, id),
    version: company.version,
    name: company.name,
    nameClaim: claims.find((claim) => claim.field === 'companyName') ?? null,
    domain: company.domain,
    url: company.url,
    phone: company.phone,
    address: company.address,
    legalName: company.legalName ?? null,
    industry: company.industry ?? null,
    employees: company.employees ?? null,
    technologies: company.technologies ?? [],
    country: company.country ?? null,
    timeZone: company.timeZone ?? null,
    kind: company.kind ?? 'firm',
    kindTerm: company.kindTerm ?? null,
    parent: parent ? { id: parent.id, name: parent.name } : null,
    branches: branches.map((branch) => ({ id: branch.id, name: branch.name })),
    claims,
    merged: await mergesInto(context, id),
    toldApart: await toldApartFrom(context, 'company', id),
    people: people.map((person) => ({ id: person.id, name: person.fullName, jobTitle: person.jobTitle })),
    rhythmDays: company.rhythmDays ?? null,
    isImportant: company.isImportant,
    owner: owner ? { id: owner.id, name: owner.name } : null,
    since: company.createdAt.toISOString(),
    turn: await turnOf(context, 'companyId', id),
    nextMove: moves[0] ?? null,
    moves,
    ...(await linkedWork(context, 'company', id)),
  };
}

export async function companyRow(context: Context, id: string): Promise<CompanyRow> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE c.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such company.');
  return asRow(row);
}
