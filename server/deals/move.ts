import { moveDeal } from '@emporikon/core/lifecycle/deals';
import type { Context } from '../commands/context';
import type { Deal, Stage } from '../db/models/deals';
import { usualChanceOf } from '../pipelines/stages';

/**
 * Moves a deal to a stage. The usual chance of the stage comes along unless a person set their own; a won or lost one
 * is settled, and one taken up again is open as if it had never been closed.
 * @param keepsSince leaves the day it came to its stage, and when it was closed, as they are
 */
export async function moveTo(
  context: Context,
  deal: Deal,
  stage: Stage,
  { keepsSince = false }: { keepsSince?: boolean } = {},
): Promise<void> {
  const probability = await usualChanceOf(context, stage);
  const isOpen = stage.kind === 'open';
  const moved = isOpen
    ? moveDeal(deal as Pick<Deal, 'stageId' | 'probability'> & { probabilityByHand: boolean }, {
        id: stage.id,
        probability,
      })
    : { stageId: stage.id, probability, probabilityByHand: false };
  const now = context.now();
  await context.write.update(deal, {
    ...moved,
    ...(keepsSince ? {} : { stageSince: now }),
    closedAt: isOpen ? null : keepsSince ? (deal.closedAt ?? now) : now,
    ...(isOpen ? { closeReason: null } : {}),
    updatedAt: now,
  });
}
