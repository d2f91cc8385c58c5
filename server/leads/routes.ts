import { statusProblem, type LeadRating, type LeadStatus } from '@emporikon/core/lifecycle/statuses';
import { requireColleague } from '../commands/colleague';
import { requireActor, type Context } from '../commands/context';
import { findOrMakeCompany } from '../companies/commands';
import { Lead } from '../db/models/deals';
import type { Handlers } from '../http/mount';
import { invalid, notFound, stale } from '../http/problems';
import { rowOf } from '../commands/writer';
import { createPerson, loadPerson } from '../people/commands';
import { answerQuestion } from './answers';
import { convertLead } from './convert';
import { conversionProposal } from './proposed';
import { makeLead } from './make';
import { leadDetail, leadRow, listLeads } from './queries';

interface LeadPatch {
  version: number;
  title?: string;
  status?: LeadStatus;
  ownerId?: string;
  parkedUntil?: string | null;
  dropReason?: string | null;
  rating?: LeadRating | null;
  because?: string;
}

async function loadLead(context: Context, id: string): Promise<Lead> {
  const lead = await Lead.findByPk(id, { transaction: context.tx, lock: true });
  if (!lead) throw notFound('There is no such lead.');
  return lead;
}

/** The open status a lead that is parked comes back to. */
const openStatus = (status: LeadStatus): 'new' | 'working' | 'qualified' =>
  status === 'new' || status === 'qualified' ? status : 'working';

async function changeLead(
  context: Context,
  id: string,
  { version, because, ...patch }: LeadPatch,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const lead = await loadLead(context, id);
  if (lead.version !== version) throw stale(rowOf(lead));
  const status = patch.status ?? lead.status;
  const problem = statusProblem(lead.status, status, {
    parkedUntil: patch.parkedUntil ?? lead.parkedUntil,
    dropReason: patch.dropReason ?? lead.dropReason,
  });
  if (problem) throw invalid(problem, { fields: { status: problem } });
  const moved = status !== lead.status;
  await context.write.update(lead, {
    ...patch,
    ...(moved
      ? {
          statusSince: context.now(),
          ...(status === 'parked'
            ? { parkedFrom: openStatus(lead.status) }
            : { parkedUntil: null, parkedFrom: null }),
          ...(status === 'dropped' ? {} : { dropReason: null }),
        }
      : {}),
    updatedAt: context.now(),
  });
  const label = moved ? `Set ${lead.title} to ${status}` : `Changed ${lead.title}`;
  return {
    version: lead.version,
    eventId: await context.write.event('change lead', label, requireActor(context).id),
  };
}

export const leadHandlers: Handlers = {
  'GET /api/leads': async ({ query, context }) => listLeads(context, query),
  'POST /api/leads': async ({ body, context }) => {
    const actor = requireActor(context);
    const company =
      !body.companyId && body.companyName ? await findOrMakeCompany(context, body.companyName, null) : null;
    const companyId = body.companyId ?? company?.id ?? null;
    const person = body.personId
      ? await loadPerson(context, body.personId)
      : await createPerson(context, { fullName: body.personName ?? '', companyId });
    const lead = await makeLead(context, person, {
      title: body.title,
      companyId: companyId ?? person.companyId,
      source: body.source ?? 'by hand',
      ...(body.ownerId ? { ownerId: await requireColleague(context, body.ownerId) } : {}),
    });
    return {
      eventId: await context.write.event('add lead', `Added ${lead.title}`, actor.id),
      lead: await leadRow(context, lead.id),
    };
  },
  'GET /api/leads/:id': async ({ params, context }) => leadDetail(context, params.id),
  'PATCH /api/leads/:id': async ({ params, body, context }) => changeLead(context, params.id, body),
  'PUT /api/leads/:id/answers/:questionId': async ({ params, body, context }) => ({
    eventId: await answerQuestion(context, params.id, params.questionId, body),
  }),
  'GET /api/leads/:id/conversion': async ({ params, context }) => conversionProposal(context, params.id),
  'POST /api/leads/:id/conversion': async ({ params, body, context, reply }) => {
    const conversion = await convertLead(context, params.id, body ?? {});
    if (!conversion.created) reply.code(200);
    return conversion;
  },
};
