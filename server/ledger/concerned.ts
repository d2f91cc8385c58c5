import type { About } from '@emporikon/contract/ledger';
import type { Context } from '../commands/context';
import { Deal, DealRoleRow, Lead, Stage } from '../db/models/deals';
import { Person } from '../db/models/people';
import { invalid } from '../http/problems';
import { dealOf } from '../leads/queries';

export type AllConcerned = Record<'personId' | 'companyId' | 'leadId' | 'dealId', string | null>;

/** Fills in what a record implies: a person's company, a lead's person, a deal's people. */
export async function concerned(context: Context, about: About): Promise<AllConcerned> {
  const all: AllConcerned = {
    personId: about.personId ?? null,
    companyId: about.companyId ?? null,
    leadId: about.leadId ?? null,
    dealId: about.dealId ?? null,
  };
  if (all.leadId) {
    const lead = await Lead.findByPk(all.leadId, { transaction: context.tx });
    if (!lead) throw invalid('There is no such lead.');
    all.personId ??= lead.personId;
    all.companyId ??= lead.companyId;
    all.dealId ??= (await dealOf(context, lead))?.id ?? null;
  }
  if (all.dealId) {
    const deal = await Deal.findByPk(all.dealId, { transaction: context.tx });
    if (!deal) throw invalid('There is no such deal.');
    all.companyId ??= deal.companyId;
    all.personId ??=
      (await DealRoleRow.findOne({ where: { dealId: deal.id }, transaction: context.tx }))?.personId ?? null;
  }
  if (all.personId) {
    const person = await Person.findByPk(all.personId, { transaction: context.tx });
    if (!person) throw invalid('There is no such person.');
    all.companyId ??= person.companyId;
    const open = await openDealsOf(context, { personId: person.id, companyId: null });
    if (open.length === 1) all.dealId ??= open[0]?.id ?? null;
  }
  if (!all.personId && !all.companyId && !all.leadId && !all.dealId)
    throw invalid('Say who or what this is about.', { fields: { about: 'is missing' } });
  return all;
}

/** Open deals of a person or company; the composer speaks of a deal only when there is exactly one. */
export async function openDealsOf(
  context: Context,
  { personId, companyId }: Pick<AllConcerned, 'personId' | 'companyId'>,
): Promise<Deal[]> {
  const open = (await Stage.findAll({ where: { kind: 'open' }, transaction: context.tx })).map(
    (stage) => stage.id,
  );
  const ids = personId
    ? (await DealRoleRow.findAll({ where: { personId }, transaction: context.tx })).map((role) => role.dealId)
    : null;
  if (!ids && !companyId) return [];
  return Deal.findAll({
    where: { stageId: open, ...(ids ? { id: ids } : { companyId }) },
    order: [['createdAt', 'DESC']],
    transaction: context.tx,
  });
}
