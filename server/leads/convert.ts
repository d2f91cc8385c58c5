import type { Parsed } from '@emporikon/contract';
import { proposeRole } from '@emporikon/core/lifecycle/conversion';
import { standingWithWork } from '@emporikon/core/lifecycle/standing';
import { requireActor, type Context } from '../commands/context';
import { findOrMakeCompany } from '../companies/commands';
import { Deal, Lead, Stage } from '../db/models/deals';
import { Task } from '../db/models/tasks';
import { LedgerLink } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';
import { makeDeal } from '../deals/make';
import { addParts } from '../deals/people';
import { conflict, invalid, notFound } from '../http/problems';
import { linkEntry } from '../ledger/write';
import { conversionEvent, dealOf, leadRow, proposalFor } from './queries';

export type ConversionInput = NonNullable<Parsed<'POST /api/leads/:id/conversion', 'body'>>;

export interface Conversion {
  deal: { id: string; name: string };
  created: boolean;
  eventId: string | null;
}

/** The ledger and the open next moves of the lead become the deal's as well, and the person's it turned out to be. */
async function carryAlong(context: Context, lead: Lead, dealId: string, personId: string): Promise<void> {
  const links = await LedgerLink.findAll({ where: { leadId: lead.id }, transaction: context.tx });
  const there = await LedgerLink.findAll({
    where: { entryId: links.map((link) => link.entryId) },
    transaction: context.tx,
  });
  for (const { entryId } of links) {
    const has = (key: 'dealId' | 'personId', id: string): boolean =>
      there.some((link) => link.entryId === entryId && link[key] === id);
    if (!has('dealId', dealId) || !has('personId', personId))
      await linkEntry(context, entryId, { dealId, ...(personId === lead.personId ? {} : { personId }) });
  }
  const tasks = await Task.findAll({
    where: { leadId: lead.id, doneAt: null, dealId: null },
    transaction: context.tx,
    lock: true,
  });
  for (const task of tasks) await context.write.update(task, { dealId, personId });
}

/** The company of the deal: the one chosen, the one named, else that of the lead or its person. */
async function companyOf(
  context: Context,
  lead: Lead,
  person: Person,
  { companyId, companyName }: ConversionInput,
): Promise<string | null> {
  if (companyName) return (await findOrMakeCompany(context, companyName, null)).id;
  if (companyId === undefined) return lead.companyId ?? person.companyId;
  if (companyId && !(await Company.findByPk(companyId, { transaction: context.tx })))
    throw invalid('There is no such company.', { fields: { companyId: 'does not exist' } });
  return companyId;
}

/** The open deal the lead goes to, where one was chosen. @throws 422 for none, 409 for one that is closed */
async function joined(context: Context, id: string | undefined): Promise<Deal | null> {
  if (!id) return null;
  const deal = await Deal.findByPk(id, { transaction: context.tx, lock: true });
  if (!deal) throw invalid('There is no such deal.', { fields: { dealId: 'does not exist' } });
  const stage = await Stage.findByPk(deal.stageId, { transaction: context.tx });
  if (stage?.kind !== 'open') throw conflict('This deal is closed. Choose an open one, or make a new deal.');
  return deal;
}

/** Who the person of the lead is: the one it has, or the one they turned out to be. */
async function personOf(context: Context, lead: Lead, chosen: string | undefined): Promise<Person> {
  const person = await Person.findByPk(chosen ?? lead.personId, { transaction: context.tx, lock: true });
  if (person) return person;
  if (chosen) throw invalid('There is no such person.', { fields: { personId: 'does not exist' } });
  throw notFound('The person of this lead is gone.');
}

async function newDeal(
  context: Context,
  lead: Lead,
  person: Person,
  companyId: string | null,
  input: ConversionInput,
): Promise<Deal> {
  const { proposal } = await proposalFor(context, lead, await leadRow(context, lead.id));
  return makeDeal(context, person.id, {
    title: input.title ?? proposal.title,
    companyId,
    leadId: lead.id,
    stageId: input.stageId,
    amountMinor: input.amountMinor === undefined ? proposal.amountMinor : input.amountMinor,
    currency: input.currency ?? proposal.currency,
    expectedClose: input.expectedClose === undefined ? proposal.expectedClose : input.expectedClose,
    ownerId: lead.ownerId,
    role: input.role ?? proposeRole(person.jobTitle, true),
  });
}

/**
 * Makes a deal of a lead, or files it on an open one: person, company and deal linked, everybody with their part, the
 * ledger and the next moves carried along, in one transaction. A lead has at most one deal; asking again gives the one
 * there is.
 * @param isPart part of a larger command, whose event is also that of the conversion
 */
export async function convertLead(
  context: Context,
  id: string,
  input: ConversionInput,
  { isPart = false }: { isPart?: boolean } = {},
): Promise<Conversion> {
  const lead = await Lead.findByPk(id, { transaction: context.tx, lock: true });
  if (!lead) throw notFound('There is no such lead.');
  const known = await dealOf(context, lead);
  if (known)
    return {
      deal: { id: known.id, name: known.title },
      created: false,
      eventId: await conversionEvent(context, id),
    };
  if (lead.status === 'dropped') throw conflict('This lead was dropped. Reopen it first.');
  const person = await personOf(context, lead, input.personId);
  const open = await joined(context, input.dealId);
  const companyId = open ? open.companyId : await companyOf(context, lead, person, input);
  const deal = open ?? (await newDeal(context, lead, person, companyId, input));
  const role = input.role ?? proposeRole(person.jobTitle, true);
  await addParts(context, deal.id, [
    ...(open ? [{ personId: person.id, role }] : []),
    ...(input.people ?? []).filter((part) => part.personId !== person.id),
  ]);
  const now = context.now();
  if (open && !open.leadId) await context.write.update(open, { leadId: lead.id, updatedAt: now });
  // Whoever may convert may do what it takes to keep them together.
  await context.write.asConsequence(async () => {
    await context.write.update(person, {
      standing: standingWithWork(person.standing),
      companyId: person.companyId ?? companyId,
      updatedAt: now,
    });
    await carryAlong(context, lead, deal.id, person.id);
  });
  await context.write.update(lead, {
    status: 'converted',
    statusSince: now,
    personId: person.id,
    companyId,
    dealId: deal.id,
    parkedUntil: null,
    updatedAt: now,
  });
  const label = open ? `Took ${lead.title} into ${deal.title}` : `Converted ${lead.title}`;
  const eventId = isPart ? null : await context.write.event('convert lead', label, requireActor(context).id);
  return { deal: { id: deal.id, name: deal.title }, created: !open, eventId };
}
