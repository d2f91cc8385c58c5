import { DateTime } from 'luxon';
import { requireActor } from '../commands/context';
import { RoundLater } from '../db/models/round';
import type { Handlers } from '../http/mount';
import { invalid } from '../http/problems';
import { listRound } from './list';

export const roundHandlers: Handlers = {
  'GET /api/round': async ({ query, context }) => listRound(context, query),
  'POST /api/round/later': async ({ body, context }) => {
    const actor = requireActor(context);
    const until = DateTime.fromISO(body.until, { zone: actor.timeZone }).startOf('day').toJSDate();
    if (until <= context.now())
      throw invalid('It is put off to a day after today.', { fields: { until: 'is not after today' } });
    const { id: userId } = actor;
    const known = await RoundLater.findAll({ where: { userId, key: body.key }, transaction: context.tx });
    for (const row of known) await context.write.remove(row);
    await context.write.insert(RoundLater, {
      id: context.newId(),
      userId,
      key: body.key,
      until,
      createdAt: context.now(),
    });
    return { eventId: await context.write.event('put off', 'Put off in the round', userId) };
  },
};
