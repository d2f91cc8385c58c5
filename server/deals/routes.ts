import { findOrMakeCompany } from '../companies/commands';
import { requireColleague } from '../commands/colleague';
import { requireActor } from '../commands/context';
import type { Handlers } from '../http/mount';
import { changeDeal } from './change';
import { checkedTotals, setLines } from './lines';
import { makeDeal } from './make';
import { setParts } from './people';
import { board, furtherCards } from './board';
import { dealDetail, dealRow, listDeals } from './queries';

export const dealHandlers: Handlers = {
  'GET /api/deals': async ({ query, context }) => listDeals(context, query),
  'GET /api/pipelines/:id/board': async ({ params, query, context }) => board(context, params.id, query),
  'GET /api/pipelines/:id/board/:stageId': async ({ params, query, context }) =>
    furtherCards(context, params, query),
  'POST /api/deals': async ({ body, context }) => {
    const actor = requireActor(context);
    const company =
      !body.companyId && body.companyName ? await findOrMakeCompany(context, body.companyName, null) : null;
    const deal = await makeDeal(context, body.personId ?? null, {
      title: body.title,
      companyId: body.companyId ?? company?.id ?? null,
      leadId: null,
      stageId: body.stageId,
      amountMinor: body.amountMinor ?? null,
      currency: body.currency ?? context.house.currency,
      expectedClose: body.expectedClose ?? null,
      tags: body.tags ?? [],
      ownerId: body.ownerId ? await requireColleague(context, body.ownerId) : actor.id,
    });
    return {
      eventId: await context.write.event('add deal', `Added ${deal.title}`, actor.id),
      deal: await dealRow(context, deal.id),
    };
  },
  'GET /api/deals/:id': async ({ params, context }) => dealDetail(context, params.id),
  'PATCH /api/deals/:id': async ({ params, body, context }) => changeDeal(context, params.id, body),
  'PUT /api/deals/:id/people': async ({ params, body, context }) => ({
    eventId: await setParts(context, params.id, body.people),
  }),
  'PUT /api/deals/:id/lines': async ({ params, body, context }) => setLines(context, params.id, body),
  'POST /api/totals': async ({ body }) => checkedTotals(body.lines),
};
