import { workingDaysOn } from '@emporikon/core/calendar/workingDays';
import { DateTime } from 'luxon';
import { requireActor, type Context } from '../commands/context';
import { Lead } from '../db/models/deals';
import { Company, type Person } from '../db/models/people';
import { Plan } from '../db/models/qualifying';
import { invalid } from '../http/problems';
import { freeDaysFor } from '../calendar/free';
import { addTask } from '../tasks/add';
import { makeLead } from '../leads/make';
import { loadPerson } from '../people/commands';

export interface Decision {
  as: 'prospect' | 'customer' | 'partner' | 'personal' | 'drop';
  planId?: string;
  source: string;
}

async function loadPlan(context: Context, id: string | undefined): Promise<Plan | null> {
  if (!id) return null;
  const plan = await Plan.findByPk(id, { transaction: context.tx });
  if (!plan?.active) throw invalid('There is no such plan.', { fields: { planId: 'does not exist' } });
  return plan;
}

/** The lead of a prospect: an open one there is, else a new one. */
async function leadOf(context: Context, person: Person, source: string): Promise<Lead> {
  const open = await Lead.findOne({
    where: { personId: person.id, status: ['new', 'working', 'qualified'] },
    transaction: context.tx,
  });
  if (open) return open;
  const company = person.companyId
    ? await Company.findByPk(person.companyId, { transaction: context.tx })
    : null;
  return makeLead(context, person, {
    title: company?.name ?? person.fullName,
    companyId: person.companyId,
    source,
  });
}

async function firstMove(context: Context, lead: Lead, plan: Plan): Promise<void> {
  const actor = requireActor(context);
  const today = DateTime.fromJSDate(context.now(), { zone: actor.timeZone });
  await addTask(
    context,
    {
      title: plan.title,
      kind: plan.kind,
      dueAt: workingDaysOn(today, plan.days, await freeDaysFor(context, lead.ownerId))
        .toJSDate()
        .toISOString(),
      allDay: true,
      assigneeId: lead.ownerId,
    },
    { personId: lead.personId, companyId: lead.companyId, leadId: lead.id },
  );
}

/** Decides what somebody is to us, in one command with one undo. */
export async function decide(
  context: Context,
  personId: string,
  decision: Decision,
): Promise<{ eventId: string | null; lead: { id: string; name: string } | null }> {
  const person = await loadPerson(context, personId, true);
  const plan = await loadPlan(context, decision.planId);
  const now = context.now();
  await context.write.update(person, {
    triagedAt: now,
    ...(decision.as === 'drop' ? { inactiveSince: person.inactiveSince ?? now } : { standing: decision.as }),
    updatedAt: now,
  });
  const lead = decision.as === 'prospect' ? await leadOf(context, person, decision.source) : null;
  if (lead && plan) await firstMove(context, lead, plan);
  return {
    eventId: await context.write.event(
      'triage',
      `${person.fullName}: ${decision.as === 'drop' ? 'dropped' : decision.as}${plan ? `, ${plan.name.toLowerCase()}` : ''}`,
      requireActor(context).id,
    ),
    lead: lead ? { id: lead.id, name: lead.title } : null,
  };
}
