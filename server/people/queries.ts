import type { Claim } from '@emporikon/contract/captures';
import type { PersonDossier, PersonRow } from '@emporikon/contract/people';
import { daysInStage } from '@emporikon/core/lifecycle/deals';
import { QueryTypes } from 'sequelize';
import { asClaims } from '../captures/view';
import type { Context } from '../commands/context';
import { ClaimRow } from '../db/models/captures';
import { Company, ContactPoint, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { importedClaims } from '../imports/evidence';
import { customFields, loadMappings } from '../fields/mapping';
import { decodeCursor, pageOf } from '../http/paging';
import { notFound } from '../http/problems';
import { turnOf } from '../ledger/queries';
import { mergesInto } from '../lookalikes/merged';
import { nameHolds } from '../search/filter';
import { nextMoves } from '../tasks/queries';

interface Row {
  id: string;
  full_name: string;
  name_key: string;
  job_title: string | null;
  company_id: string | null;
  company: string | null;
  standing: PersonRow['standing'];
  email: string | null;
  phone: string | null;
  owner: string | null;
  inactive: boolean;
  updated_at: Date;
}

const SELECT = `SELECT p.id, p.full_name, p.name_key, p.job_title, p.company_id, c.name AS company, p.standing, p.inactive_since IS NOT NULL AS inactive, u.name AS owner, p.updated_at,
    (SELECT value FROM contact_points k WHERE k.person_id = p.id AND kind = 'email' ORDER BY created_at LIMIT 1) AS email,
    (SELECT normalized FROM contact_points k WHERE k.person_id = p.id AND kind = 'phone' AND type IS DISTINCT FROM 'fax' ORDER BY (type = 'mobile') DESC, created_at LIMIT 1) AS phone
  FROM people p LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN users u ON u.id = p.owner_id`;

const asRow = (row: Row): PersonRow => ({
  id: row.id,
  fullName: row.full_name,
  jobTitle: row.job_title,
  company: row.company_id && row.company ? { id: row.company_id, name: row.company } : null,
  standing: row.standing,
  email: row.email,
  phone: row.phone,
  owner: row.owner,
  inactive: row.inactive,
  updatedAt: row.updated_at.toISOString(),
});

/** People by name as it is spoken, without the inactive unless they are asked for; optionally those whose name holds every word of `q`. */
export async function listPeople(
  context: Context,
  query: {
    q?: string;
    tag?: string;
    list?: string;
    inactive: 'without' | 'with' | 'only';
    cursor?: string;
    limit: number;
  },
): Promise<{ items: PersonRow[]; next: string | null }> {
  const [name = '', id = ''] = decodeCursor(query.cursor, 2);
  const held = nameHolds('p', 'p.id', query.q ?? '');
  const active = { without: 'p.inactive_since IS NULL', only: 'p.inactive_since IS NOT NULL', with: 'true' };
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE ${held.sql} AND ${active[query.inactive]}
       AND (:tag::text IS NULL OR p.tags @> ARRAY[:tag]::text[])
       AND (:list::uuid IS NULL OR EXISTS (SELECT 1 FROM list_members m WHERE m.person_id = p.id AND m.list_id = :list))
       AND (:name = '' OR (p.full_name, p.id::text) > (:name, :id)) ORDER BY p.full_name, p.id::text LIMIT :limit`,
    {
      replacements: {
        ...held.replacements,
        tag: query.tag ?? null,
        list: query.list ?? null,
        name,
        id,
        limit: query.limit + 1,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return pageOf(rows, query.limit, asRow, (row) => [row.full_name, row.id]);
}

export async function personRow(context: Context, id: string): Promise<PersonRow> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE p.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such person.');
  return asRow(row);
}

interface LinkedRow {
  id: string;
  name: string;
  status: string;
}
interface LinkedDeal {
  id: string;
  name: string;
  stage: string;
  stage_since: Date;
  amount_minor: number | null;
  currency: string;
  probability: number;
}

/** Leads and deals of a person or a company, newest first. Fixed SQL, chosen by key. */
export async function linkedWork(
  context: Context,
  owner: 'person' | 'company',
  id: string,
): Promise<Pick<PersonDossier, 'leads' | 'deals'>> {
  const options = { replacements: { id }, type: QueryTypes.SELECT as const, transaction: context.tx };
  const leads = await context.sequelize.query<LinkedRow>(
    `SELECT id, title AS name, status FROM leads WHERE ${owner === 'person' ? 'person_id' : 'company_id'} = :id ORDER BY created_at DESC LIMIT 50`,
    options,
  );
  const deals = await context.sequelize.query<LinkedDeal>(
    `SELECT d.id, d.title AS name, s.name AS stage, d.stage_since, d.amount_minor, d.currency, d.probability FROM deals d JOIN stages s ON s.id = d.stage_id
      WHERE ${owner === 'person' ? 'd.id IN (SELECT deal_id FROM deal_roles WHERE person_id = :id)' : 'd.company_id = :id'} ORDER BY d.created_at DESC LIMIT 50`,
    options,
  );
  const now = context.now().toISOString();
  return {
    leads,
    deals: deals.map((deal) => ({
      id: deal.id,
      name: deal.name,
      stage: deal.stage,
      days: daysInStage(deal.stage_since.toISOString(), now),
      amountMinor: deal.amount_minor,
      currency: deal.currency,
      probability: deal.probability,
    })),
  };
}

const listsOf = (context: Context, personId: string): Promise<{ id: string; name: string }[]> =>
  context.sequelize.query<{ id: string; name: string }>(
    'SELECT l.id, l.name FROM list_members m JOIN lists l ON l.id = m.list_id WHERE m.person_id = :personId ORDER BY l.name',
    { replacements: { personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );

/** Everything the dossier of a person shows on its card. */
export async function personDossier(context: Context, id: string): Promise<PersonDossier> {
  const person = await Person.findByPk(id, { transaction: context.tx });
  if (!person) throw notFound('There is no such person.');
  const written = await asClaims(
    context,
    await ClaimRow.findAll({
      where: { personId: id, fate: ['current', 'proposed'] },
      order: [['createdAt', 'DESC']],
      transaction: context.tx,
    }),
  );
  const claims = [...written, ...(await importedClaims(context, id))];
  const current = (field: Claim['field'], normalized?: string): Claim | null =>
    claims.find(
      (claim) =>
        claim.field === field &&
        claim.fate === 'current' &&
        (normalized === undefined || claim.normalized === normalized),
    ) ?? null;
  const fact = (field: 'fullName' | 'jobTitle' | 'address' | 'background'): PersonDossier['fullName'] => ({
    value: person[field] ?? null,
    claim: current(field === 'background' ? 'note' : field),
    suggestion:
      claims.find(
        (claim) => claim.field === field && claim.fate === 'proposed' && claim.value !== person[field],
      ) ?? null,
  });
  const contacts = await ContactPoint.findAll({
    where: { personId: id },
    order: ['createdAt'],
    transaction: context.tx,
  });
  const company = person.companyId
    ? await Company.findByPk(person.companyId, { transaction: context.tx })
    : null;
  const colleagues = person.companyId
    ? await Person.findAll({
        where: { companyId: person.companyId },
        order: ['fullName'],
        limit: 30,
        transaction: context.tx,
      })
    : [];
  const fields = await customFields(context);
  const mappings = await loadMappings(context);
  /** A field of the house's own is told of by a claim of its own, or by one that Settings send there. */
  const customClaim = (key: string): Claim | null =>
    current(`custom:${key}`) ??
    [...mappings]
      .flatMap(([field, target]) => (target === `custom:${key}` ? [current(field as Claim['field'])] : []))
      .find(Boolean) ??
    null;
  const owner = person.ownerId ? await User.findByPk(person.ownerId, { transaction: context.tx }) : null;
  return {
    id,
    version: person.version,
    fullName: fact('fullName'),
    jobTitle: fact('jobTitle'),
    address: fact('address'),
    timeZone: person.timeZone,
    timeZoneClaim: current('timeZone'),
    birthday: person.birthday ?? null,
    background: { ...fact('background'), suggestion: null },
    tags: person.tags ?? [],
    lists: await listsOf(context, id),
    custom: fields
      .filter((one) => one.active !== false || person.custom?.[one.key])
      .map((one) => ({
        key: one.key,
        label: one.label,
        value: person.custom?.[one.key] ?? '',
        claim: customClaim(one.key),
      })),
    company: company ? { id: company.id, name: company.name } : null,
    companyClaim: current('companyName'),
    standing: person.standing,
    merged: await mergesInto(context, id),
    inactiveSince: person.inactiveSince?.toISOString() ?? null,
    contacts: contacts.map((one) => ({
      id: one.id,
      version: one.version,
      kind: one.kind,
      value: one.value,
      normalized: one.normalized,
      type: one.type,
      claim: current(one.kind, one.normalized),
      consent: one.consent ?? null,
    })),
    colleagues: colleagues.filter((one) => one.id !== id).map((one) => ({ id: one.id, name: one.fullName })),
    owner: owner ? { id: owner.id, name: owner.name } : null,
    since: person.createdAt.toISOString(),
    turn: await turnOf(context, 'personId', id),
    nextMove: (await nextMoves(context, 'person_id', [id])).get(id) ?? null,
    ...(await linkedWork(context, 'person', id)),
  };
}
