import type { CompanyDossier, CompanyRow } from '@emporikon/contract/companies';
import { fold } from '@emporikon/core/people/text';
import { QueryTypes } from 'sequelize';
import { asClaims } from '../captures/view';
import type { Context } from '../commands/context';
import { ClaimRow } from '../db/models/captures';
import { Person } from '../db/models/people';
import { User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { decodeCursor, encodeCursor } from '../http/paging';
import { notFound } from '../http/problems';
import { turnOf } from '../ledger/queries';
import { linkedWork } from '../people/queries';
import { nextMoves } from '../tasks/queries';
import { addCompany, changeCompany, loadCompany } from './commands';
import { findOrCreateCompany } from './identity';

interface Row {
  id: string;
  name: string;
  domain: string | null;
  people: number;
  open_deals: number;
  updated_at: Date;
}

const SELECT = `SELECT c.id, c.name, c.domain, c.updated_at, (SELECT count(*)::int FROM people p WHERE p.company_id = c.id) AS people,
    (SELECT count(*)::int FROM deals d JOIN stages s ON s.id = d.stage_id WHERE d.company_id = c.id AND s.kind = 'open') AS open_deals FROM companies c`;

const asRow = (row: Row): CompanyRow => ({
  id: row.id,
  name: row.name,
  domain: row.domain,
  people: row.people,
  openDeals: row.open_deals,
  updatedAt: row.updated_at.toISOString(),
});

async function listCompanies(
  context: Context,
  query: { q?: string; cursor?: string; limit: number },
): Promise<{ items: CompanyRow[]; next: string | null }> {
  const [name = '', id = ''] = decodeCursor(query.cursor, 2);
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE c.name_key LIKE ALL (ARRAY[:words]::text[]) AND (:name = '' OR (c.name, c.id::text) > (:name, :id)) ORDER BY c.name, c.id::text LIMIT :limit`,
    {
      replacements: {
        words: [
          '%',
          ...fold(query.q ?? '')
            .split(' ')
            .map((word) => `%${word}%`),
        ],
        name,
        id,
        limit: query.limit + 1,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const page = rows.slice(0, query.limit);
  const last = page.at(-1);
  return {
    items: page.map(asRow),
    next: rows.length > page.length && last ? encodeCursor([last.name, last.id]) : null,
  };
}

async function dossier(context: Context, id: string): Promise<CompanyDossier> {
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
  const owner = company.ownerId ? await User.findByPk(company.ownerId, { transaction: context.tx }) : null;
  return {
    id,
    version: company.version,
    name: company.name,
    nameClaim: claims.find((claim) => claim.field === 'companyName') ?? null,
    domain: company.domain,
    url: company.url,
    phone: company.phone,
    address: company.address,
    claims,
    people: people.map((one) => ({ id: one.id, name: one.fullName, jobTitle: one.jobTitle })),
    owner: owner ? { id: owner.id, name: owner.name } : null,
    since: company.createdAt.toISOString(),
    turn: await turnOf(context, 'companyId', id),
    nextMove: (await nextMoves(context, 'company_id', [id])).get(id) ?? null,
    ...(await linkedWork(context, 'company', id)),
  };
}

async function companyRow(context: Context, id: string): Promise<CompanyRow> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE c.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such company.');
  return asRow(row);
}

export const companyHandlers: Handlers = {
  'GET /api/companies': async ({ query, context }) => listCompanies(context, query),
  'POST /api/companies': async ({ body, context }) => {
    const { id, eventId } = await addCompany(context, body.name, body.domain ?? null);
    return { eventId, company: await companyRow(context, id) };
  },
  'POST /api/companies/find-or-create': async ({ body, context }) => {
    const { id, outcome, matches, eventId } = await findOrCreateCompany(context, body);
    return {
      outcome,
      created: outcome === 'created',
      eventId,
      matches,
      company: id ? await companyRow(context, id) : null,
    };
  },
  'GET /api/companies/:id': async ({ params, context }) => dossier(context, params.id),
  'PATCH /api/companies/:id': async ({ params, body, context }) => changeCompany(context, params.id, body),
};
