import type { About } from '@emporikon/contract/ledger';
import type { Context } from '../commands/context';
import { Deal, DealRoleRow, Lead, Stage } from '../db/models/deals';
import { Case, Project, ProjectPerson } from '../db/models/afterDeals';
import { Person } from '../db/models/people';
import { invalid } from '../http/problems';
import { dealOf } from '../leads/queries';

export type AllConcerned = Record<keyof About, string | null>;

/** Fills in what a record implies: a person's company, a lead's person, a deal's people, whose case it is. */
export async function concerned(context: Context, about: About): Promise<AllConcerned> {
  const all: AllConcerned = {
    personId: about.personId ?? null,
    companyId: about.companyId ?? null,
    leadId: about.leadId ?? null,
    dealId: about.dealId ?? null,
    projectId: about.projectId ?? null,
    caseId: about.caseId ?? null,
  };
  if (all.caseId) {
    const found = await Case.findByPk(all.caseId, { transaction: context.tx });
    if (!found) throw invalid('There is no such case.');
    all.personId ??= found.personId;
    all.companyId ??= found.companyId;
  }
  if (all.projectId) {
    const project = await Project.findByPk(all.projectId, { transaction: context.tx });
    if (!project) throw invalid('There is no such project.');
    all.companyId ??= project.companyId;
    all.personId ??=
      (await ProjectPerson.findOne({ where: { projectId: project.id }, transaction: context.tx }))
        ?.personId ?? null;
  }
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
    // What is said of a case or a project is not said of what is being sold.
    const isAfterwards = all.caseId !== null || all.projectId !== null;
    const open = isAfterwards ? [] : await openDealsOf(context, { personId: person.id, companyId: null });
    if (open.length === 1) all.dealId ??= open[0]?.id ?? null;
  }
  if (Object.values(all).every((id) => id === null))
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
