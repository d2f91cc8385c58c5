import { moveDeal } from '@emporikon/core/lifecycle/deals';
import { whoActs, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Deal, DealRoleRow, Stage } from '../db/models/deals';
import type { Handlers } from '../http/mount';
import { invalid, notFound, stale } from '../http/problems';
import { dealDetail, dealRow, pipeline } from './queries';

interface DealPatch {
  version: number;
  title?: string;
  stageId?: string;
  amountMinor?: number | null;
  currency?: string;
  expectedClose?: string | null;
  ownerId?: string;
  probability?: number | null;
}

async function stageById(context: Context, id: string | undefined): Promise<Stage> {
  const stage = id
    ? await Stage.findByPk(id, { transaction: context.tx })
    : await Stage.findOne({ where: { kind: 'open' }, order: ['position'], transaction: context.tx });
  if (!stage) throw invalid('There is no such stage.', { fields: { stageId: 'does not exist' } });
  return stage;
}

/** Changes or moves a deal. Moving takes the stage's usual probability along unless a person set their own. */
async function changeDeal(
  context: Context,
  id: string,
  { version, stageId, probability, ...patch }: DealPatch,
): Promise<{ version: number; eventId: string | null }> {
  const deal = await Deal.findByPk(id, { transaction: context.tx, lock: true });
  if (!deal) throw notFound('There is no such deal.');
  if (deal.version !== version) throw stale(rowOf(deal));
  const stage = await stageById(context, stageId ?? deal.stageId);
  const moving = stage.id !== deal.stageId;
  const moved = moving ? { ...moveDeal(deal, stage), stageSince: context.now() } : {};
  const settled = stage.kind === 'open' ? {} : { probability: stage.probability, probabilityByHand: false };
  const byHand =
    probability === undefined
      ? {}
      : probability === null
        ? { probability: stage.probability, probabilityByHand: false }
        : { probability, probabilityByHand: true };
  await context.write.update(deal, {
    ...patch,
    ...moved,
    ...(moving ? settled : {}),
    ...byHand,
    updatedAt: context.now(),
  });
  const eventId = await context.write.event(
    moving ? 'move deal' : 'change deal',
    moving ? `Moved ${deal.title} to ${stage.name}` : `Changed ${deal.title}`,
    whoActs(context).id,
  );
  return { version: deal.version, eventId };
}

export const dealHandlers: Handlers = {
  'GET /api/deals': async ({ query, context }) => pipeline(context, query),
  'POST /api/deals': async ({ body, context }) => {
    const actor = whoActs(context);
    const stage = await stageById(context, body.stageId);
    const now = context.now();
    const deal = await context.write.insert(Deal, {
      id: context.newId(),
      title: body.title,
      companyId: body.companyId ?? null,
      leadId: null,
      stageId: stage.id,
      stageSince: now,
      amountMinor: body.amountMinor ?? null,
      currency: body.currency ?? context.house.currency,
      probability: stage.probability,
      expectedClose: body.expectedClose ?? null,
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
};
