import type { Parsed } from '@emporikon/contract';
import type { DealAsk } from '@emporikon/core/lifecycle/stages';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Deal, Stage } from '../db/models/deals';
import { invalid, notFound, stale } from '../http/problems';
import { stageFor, usualChanceOf } from '../pipelines/stages';
import { notKnownOf } from './asks';
import { hasLines } from './lines';
import { settleClosed } from './closed';
import { moveTo } from './move';

/** Changes or moves a deal; says what the stage it came to asks for and is not known. */
export async function changeDeal(
  context: Context,
  id: string,
  { version, stageId, probability, because, ...patch }: Parsed<'PATCH /api/deals/:id', 'body'>,
): Promise<{ version: number; eventId: string | null; notKnown: DealAsk[] }> {
  context.write.because(because);
  const deal = await Deal.findByPk(id, { transaction: context.tx, lock: true });
  if (!deal) throw notFound('There is no such deal.');
  if (deal.version !== version) throw stale(rowOf(deal));
  const moves =
    (patch.amountMinor !== undefined && patch.amountMinor !== deal.amountMinor) ||
    (patch.currency !== undefined && patch.currency !== deal.currency);
  if (moves && (await hasLines(context, id)))
    throw invalid('The amount of this deal is the net of its lines. Change the lines.', {
      fields: { [patch.currency !== undefined ? 'currency' : 'amountMinor']: 'comes from the lines' },
    });
  const stage = stageId
    ? await stageFor(context, stageId)
    : await Stage.findByPk(deal.stageId, { transaction: context.tx });
  const isMoved = stage !== null && stage.id !== deal.stageId;
  if (stage && isMoved) await moveTo(context, deal, stage);
  if (stage && isMoved && stage.kind !== 'open') await settleClosed(context, deal, stage.kind);
  if (patch.closeReason && stage?.kind === 'open')
    throw invalid('An open deal has no reason for its end.', {
      fields: { closeReason: 'comes with the end' },
    });
  const byHand =
    probability === undefined || !stage
      ? {}
      : probability === null
        ? { probability: await usualChanceOf(context, stage), probabilityByHand: false }
        : { probability, probabilityByHand: true };
  await context.write.update(deal, { ...patch, ...byHand, updatedAt: context.now() });
  const eventId = await context.write.event(
    isMoved ? 'move deal' : 'change deal',
    stage && isMoved ? `Moved ${deal.title} to ${stage.name}` : `Changed ${deal.title}`,
    requireActor(context).id,
  );
  return {
    version: deal.version,
    eventId,
    notKnown: stage && isMoved ? await notKnownOf(context, id, stage) : [],
  };
}
