import { QueryTypes } from 'sequelize';
import type { z } from 'zod';
import { runInTransaction, type Tools } from '../commands/context';
import { FOLLOW } from '../commands/followers';
import { EventRow } from '../db/models/ledger';
import { defineJob } from './job';

/**
 * Lets a follower do its part after an event. That it was done is kept in the same transaction, so that it is done once
 * however often the queue tries.
 */
async function follow(
  tools: Tools,
  { eventId, follower: name }: z.infer<typeof FOLLOW.input>,
): Promise<void> {
  const follower = tools.followers.after.find((one) => one.name === name);
  if (!follower) throw new Error(`there is no follower “${name}”`);
  const event = await runInTransaction(tools, null, ({ tx }) =>
    EventRow.findOne({ where: { id: eventId }, transaction: tx }),
  );
  if (!event) return;
  const depth = event.depth ?? 0;
  await runInTransaction({ ...tools, cause: { eventId, depth } }, null, async (context) => {
    const [first] = await context.sequelize.query<{ follower: string }>(
      `INSERT INTO followed (event_id, follower, at) VALUES (:eventId, :name, :now)
       ON CONFLICT DO NOTHING RETURNING follower`,
      {
        replacements: { eventId, name, now: context.now() },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    if (first)
      await follower.follow(context, {
        ...event.get({ plain: true }),
        causeId: event.causeId ?? null,
        depth,
      });
  });
}

export const followJob = defineJob({ ...FOLLOW, lane: 'short', run: follow });
