import { standingWithWork } from '@emporikon/core/lifecycle/standing';
import type { DealRole } from '@emporikon/core/lifecycle/conversion';
import { whoActs, type Context } from '../commands/context';
import { Deal, Lead, Task } from '../db/models/deals';
import { LedgerLink } from '../db/models/ledger';
import { Person } from '../db/models/people';
import { makeDeal } from '../deals/make';
import { conflict, notFound } from '../http/problems';
import { conversionEvent, leadRow, proposalFor } from './queries';

export interface ConversionInput {
  title?: string;
  amountMinor?: number | null;
  currency?: string;
  expectedClose?: string | null;
  stageId?: string;
  role?: DealRole;
}

export interface Conversion {
  deal: { id: string; name: string };
  created: boolean;
  eventId: string | null;
}

/** The ledger and the open next moves of the lead become the deal's as well. */
async function carryAlong(context: Context, lead: Lead, dealId: string): Promise<void> {
  const links = await LedgerLink.findAll({ where: { leadId: lead.id }, transaction: context.tx });
  for (const link of links)
    await context.write.insert(LedgerLink, {
      id: context.newId(),
      entryId: link.entryId,
      personId: null,
      companyId: null,
      leadId: null,
      dealId,
    });
  const tasks = await Task.findAll({
    where: { leadId: lead.id, doneAt: null, dealId: null },
    transaction: context.tx,
    lock: true,
  });
  for (const task of tasks) await context.write.update(task, { dealId });
}

/**
 * Makes a deal of a lead: person, company and deal linked, the ledger carried along, in one transaction. A lead has at
 * most one deal; asking again gives the one there is.
 */
export async function convertLead(context: Context, id: string, input: ConversionInput): Promise<Conversion> {
  const lead = await Lead.findByPk(id, { transaction: context.tx, lock: true });
  if (!lead) throw notFound('There is no such lead.');
  const known = await Deal.findOne({ where: { leadId: id }, transaction: context.tx });
  if (known)
    return {
      deal: { id: known.id, name: known.title },
      created: false,
      eventId: await conversionEvent(context, id),
    };
  if (lead.status === 'dropped') throw conflict('This lead was dropped. Take it up again first.');
  const person = await Person.findByPk(lead.personId, { transaction: context.tx, lock: true });
  if (!person) throw notFound('The person of this lead is gone.');
  const { proposal } = await proposalFor(context, lead, await leadRow(context, id));
  const now = context.now();
  const companyId = lead.companyId ?? person.companyId;
  const deal = await makeDeal(context, person, {
    title: input.title ?? proposal.title,
    companyId,
    leadId: id,
    stageId: input.stageId,
    amountMinor: input.amountMinor === undefined ? proposal.amountMinor : input.amountMinor,
    currency: input.currency ?? proposal.currency,
    expectedClose: input.expectedClose === undefined ? proposal.expectedClose : input.expectedClose,
    ownerId: lead.ownerId,
    role: input.role,
  });
  await context.write.update(person, {
    standing: standingWithWork(person.standing),
    companyId: person.companyId ?? companyId,
    updatedAt: now,
  });
  await carryAlong(context, lead, deal.id);
  await context.write.update(lead, {
    status: 'converted',
    statusSince: now,
    companyId,
    parkedUntil: null,
    updatedAt: now,
  });
  const eventId = await context.write.event('convert lead', `Converted ${lead.title}`, whoActs(context).id);
  return { deal: { id: deal.id, name: deal.title }, created: true, eventId };
}
