import { placeOfRecord } from '../places/queries';
import type { Claim } from '@emporikon/contract/captures';
import type { PersonDossier } from '@emporikon/contract/people';
import { daysInStage } from '@emporikon/core/lifecycle/deals';
import { QueryTypes } from 'sequelize';
import { asClaims } from '../captures/view';
import type { Context } from '../commands/context';
import { ClaimRow } from '../db/models/captures';
import { Company, ContactPoint, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { importedClaims } from '../imports/evidence';
import { loadMappings } from '../fields/mapping';
import { showValues } from '../fields/values';
import { notFound } from '../http/problems';
import { wasErased } from '../privacy/marks';
import { turnOf } from '../ledger/queries';
import { mergesInto } from '../lookalikes/merged';
import { toldApartFrom } from '../lookalikes/toldApart';
import { rhythmOfPerson } from '../round/rhythms';
import { openMoves } from '../tasks/queries';

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
    `SELECT id, title AS name, coalesce(status_term, status) AS status FROM leads WHERE ${owner === 'person' ? 'person_id' : 'company_id'} = :id ORDER BY created_at DESC LIMIT 50`,
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

const consentsOf = (context: Context, personId: string): Promise<PersonDossier['consents']> =>
  context.sequelize.query<PersonDossier['consents'][number]>(
    `SELECT p.name AS purpose, s.state FROM consent_states s JOIN purposes p ON p.id = s.purpose_id
      WHERE s.person_id = :personId AND s.topic_id IS NULL AND p.retired_at IS NULL AND p.kind = 'mail' ORDER BY p.position, p.id`,
    { replacements: { personId }, type: QueryTypes.SELECT, transaction: context.tx },
  );

/** Everything the dossier of a person shows on its card. */
export async function personDossier(context: Context, id: string): Promise<PersonDossier> {
  const person = await Person.findByPk(id, { transaction: context.tx });
  if (!person) throw notFound((await wasErased(context, id)) ?? 'There is no such person.');
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
  const mappings = await loadMappings(context);
  /** A field of the house's own is told of by a claim of its own, or by one that Settings send there. */
  const customClaim = (key: string): Claim | null =>
    current(`custom:${key}`) ??
    [...mappings]
      .flatMap(([field, target]) => (target === `custom:${key}` ? [current(field as Claim['field'])] : []))
      .find(Boolean) ??
    null;
  const moves = await openMoves(context, 'person_id', id);
  const owner = person.ownerId ? await User.findByPk(person.ownerId, { transaction: context.tx }) : null;
  return {
    id,
    version: person.version,
    fullName: fact('fullName'),
    jobTitle: fact('jobTitle'),
    address: fact('address'),
    place: await placeOfRecord(context, id),
    timeZone: person.timeZone,
    timeZoneClaim: current('timeZone'),
    birthday: person.birthday ?? null,
    background: { ...fact('background'), suggestion: null },
    tags: person.tags ?? [],
    lists: await listsOf(context, id),
    custom: (await showValues(context, 'person', person.custom ?? {}, person.standing)).map((field) => ({
      ...field,
      claim: customClaim(field.key),
    })),
    company: company ? { id: company.id, name: company.name } : null,
    companyClaim: current('companyName'),
    standing: person.standing,
    standingTerm: person.standingTerm,
    rhythm: await rhythmOfPerson(context, person, company),
    isImportant: person.isImportant,
    merged: await mergesInto(context, id),
    toldApart: await toldApartFrom(context, 'person', id),
    inactiveSince: person.inactiveSince?.toISOString() ?? null,
    contacts: contacts.map((contact) => ({
      id: contact.id,
      version: contact.version,
      kind: contact.kind,
      value: contact.value,
      normalized: contact.normalized,
      type: contact.type,
      claim: current(contact.kind, contact.normalized),
      reach: contact.reach ?? 'good',
    })),
    consents: await consentsOf(context, id),
    colleagues: colleagues
      .filter((colleague) => colleague.id !== id)
      .map((colleague) => ({ id: colleague.id, name: colleague.fullName })),
    owner: owner ? { id: owner.id, name: owner.name } : null,
    since: person.createdAt.toISOString(),
    turn: await turnOf(context, 'personId', id),
    nextMove: moves[0] ?? null,
    moves,
    ...(await linkedWork(context, 'person', id)),
  };
}
