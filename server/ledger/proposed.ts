import { proposeMoves, type AskedMove } from '@emporikon/core/ledger/nextMove';
import { Op } from 'sequelize';
import { freeDaysFor } from '../calendar/free';
import { localNow, requireActor, type Context } from '../commands/context';
import { IntentRow } from '../db/models/captures';
import { Task } from '../db/models/tasks';

/** The tasks that an entry asks for, by what was read in its capture; those that were set already are left out. */
export async function proposedTasks(
  context: Context,
  entry: { id: string; captureId: string | null; side: string; people: readonly { id: string }[] },
): Promise<AskedMove[]> {
  if (!entry.captureId || entry.side !== 'theirs') return [];
  const actor = requireActor(context);
  const intents = await IntentRow.findAll({
    where: { captureId: entry.captureId },
    transaction: context.tx,
  });
  const moves = proposeMoves(
    intents as unknown as Parameters<typeof proposeMoves>[0],
    localNow(context),
    actor.timeZone,
    await freeDaysFor(context, actor.id),
  );
  if (!moves.length) return [];
  const set = await Task.findAll({
    where: {
      [Op.or]: [
        { entryId: entry.id },
        { title: moves.map(({ title }) => title), personId: entry.people.map(({ id }) => id) },
      ],
    },
    attributes: ['asked', 'title'],
    transaction: context.tx,
  });
  return moves.filter(
    ({ asked, title }) => !set.some((task) => task.asked === asked || task.title === title),
  );
}
