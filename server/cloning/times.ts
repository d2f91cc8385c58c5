import type { Urgency } from '@emporikon/core/lifecycle/cases';
import { promisedTimes } from '../cases/promises';
import type { Context } from '../commands/context';
import { Stage } from '../db/models/deals';
import { usualChanceOf } from '../pipelines/stages';
import type { Source } from './parts';

/** A copy of a deal begins at the first stage of its pipeline. */
export async function firstOpenStage(
  context: Context,
  stageId: string,
): Promise<{ stageId: string; probability: number; probabilityByHand: boolean }> {
  const now = await Stage.findByPk(stageId, { transaction: context.tx, rejectOnEmpty: true });
  const first =
    (await Stage.findOne({
      where: { pipelineId: now.pipelineId, kind: 'open' },
      order: ['position'],
      transaction: context.tx,
    })) ?? now;
  return { stageId: first.id, probability: await usualChanceOf(context, first), probabilityByHand: false };
}

/** What is promised for a case that is opened now. */
export async function openCaseTimes(
  context: Context,
  { urgency }: Source,
  ownerId: string,
): Promise<Record<string, unknown>> {
  const openedAt = context.now();
  return { openedAt, ...(await promisedTimes(context, { urgency: urgency as Urgency, ownerId, openedAt })) };
}

/** When a copy of a task is due: as the task is, or from now on where that has passed, with as long between its times. */
export function notBefore(now: Date, source: Source): Record<'dueAt' | 'endsAt' | 'startsAt', Date | null> {
  const late = Math.max(0, now.getTime() - (source.dueAt as Date).getTime());
  const moved = (at: unknown): Date | null => (at instanceof Date ? new Date(at.getTime() + late) : null);
  return { dueAt: moved(source.dueAt), endsAt: moved(source.endsAt), startsAt: moved(source.startsAt) };
}
