import { requireActor } from '../commands/context';
import { Plan } from '../db/models/qualifying';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { decide } from './decide';
import { triagePile } from './queries';

export const triageHandlers: Handlers = {
  'GET /api/triage': async ({ query, context }) => triagePile(context, query),
  'POST /api/triage/:id': async ({ params, body, context }) => decide(context, params.id, body),
  'GET /api/plans': async ({ context }) => ({
    items: (await Plan.findAll({ order: ['position'], transaction: context.tx })).map(
      ({ id, version, name, kind, title, days, active }) => ({
        id,
        version,
        name,
        kind,
        title,
        days,
        active: active ?? true,
      }),
    ),
  }),
  'POST /api/plans': async ({ body, context }) => {
    const last = (await Plan.max<number, Plan>('position', { transaction: context.tx })) ?? 0;
    await context.write.insert(Plan, { id: context.newId(), position: last + 1, ...body });
    return {
      eventId: await context.write.event('add plan', `Added the plan ${body.name}`, requireActor(context).id),
    };
  },
  'PATCH /api/plans/:id': async ({ params, body: { version, ...patch }, context }) => {
    const plan = await Plan.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!plan) throw notFound('There is no such plan.');
    await context.write.update(plan, patch, version);
    return {
      eventId: await context.write.event(
        'change plan',
        `Changed the plan ${plan.name}`,
        requireActor(context).id,
      ),
    };
  },
};
