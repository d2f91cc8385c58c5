import { requireColleague } from '../commands/colleague';
import { requireActor } from '../commands/context';
import { findOrMakeCompany } from '../companies/commands';
import type { Handlers } from '../http/mount';
import { createPerson, loadPerson } from '../people/commands';
import { answerQuestion } from './answers';
import { changeLead } from './change';
import { convertLead } from './convert';
import { conversionProposal } from './proposed';
import { makeLead } from './make';
import { leadDetail, leadRow, listLeads } from './queries';

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
