import { findOrMakeCompany } from '../companies/commands';
import { requireActor } from '../commands/context';
import { Deal, DealRoleRow } from '../db/models/deals';
import type { Handlers } from '../http/mount';
import { stageFor, usualChanceOf } from '../pipelines/stages';
import { changeDeal } from './change';
import { checkedTotals, setLines } from './lines';
import { setParts } from './people';
import { board, dealDetail, dealRow, listDeals } from './queries';

export const dealHandlers: Handlers = {
  'GET /api/deals': async ({ query, context }) => listDeals(context, query),
  'GET /api/pipelines/:id/board': async ({ params, query, context }) => board(context, params.id, query),
  'POST /api/deals': async ({ body, context }) => {
    const actor = requireActor(context);
    const stage = await stageFor(context, body.stageId);
    const now = context.now();
    const company =
      !body.companyId && body.companyName ? await findOrMakeCompany(context, body.companyName, null) : null;
    const deal = await context.write.insert(Deal, {
      id: context.newId(),
      title: body.title,
      companyId: body.companyId ?? company?.id ?? null,
      leadId: null,
      stageId: stage.id,
      stageSince: now,
      amountMinor: body.amountMinor ?? null,
      currency: body.currency ?? context.house.currency,
      probability: await usualChanceOf(context, stage),
      expectedClose: body.expectedClose ?? null,
      tags: body.tags ?? [],
      closedAt: stage.kind === 'open' ? null : now,
      ownerId: actor.id,
      createdAt: now,
      updatedAt: now,
    });
    if (body.personId)
      await context.write.insert(DealRoleRow, {
        id: context.newId(),
        dealId: deal.id,
        personId: body.personId,
        role: 'decides',
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
