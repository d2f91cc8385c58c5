import { countedPlainly } from '@emporikon/core/people/counts';
import type { Parsed } from '@emporikon/contract';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Deal, Stage } from '../db/models/deals';
import { PipelineRow } from '../db/models/pipelines';
import { conflict, invalid, notFound } from '../http/problems';
import { moveTo } from '../deals/move';
import { pipelineOf, usualChanceOf } from './stages';

const label = (stage: { name: string }): string => `the stage ${stage.name}`;

/** A pipeline with the least that works: a first stage, one for won and one for lost. */
export async function addPipeline(
  context: Context,
  name: string,
): Promise<{ id: string; eventId: string | null }> {
  await refuseName(context, name);
  const last = (await PipelineRow.max<number, PipelineRow>('position', { transaction: context.tx })) ?? 0;
  const pipeline = await context.write.insert(PipelineRow, {
    id: context.newId(),
    name,
    position: last + 1,
    chances: 'given',
    active: true,
  });
  for (const [position, [stage, kind, probability]] of (
    [
      ['First', 'open', 20],
      ['Won', 'won', 100],
      ['Lost', 'lost', 0],
    ] as const
  ).entries())
    await context.write.insert(Stage, {
      id: context.newId(),
      pipelineId: pipeline.id,
      name: stage,
      kind,
      probability,
      position: position + 1,
      typicalDays: 14,
    });
  return {
    id: pipeline.id,
    eventId: await context.write.event(
      'add pipeline',
      `Added the pipeline ${name}`,
      requireActor(context).id,
    ),
  };
}

async function refuseName(context: Context, name: string, except = ''): Promise<void> {
  const same = await PipelineRow.findOne({ where: { name }, transaction: context.tx });
  if (same && same.id !== except)
    throw invalid('There is a pipeline of that name.', { fields: { name: 'is taken' } });
}

/** Changes a pipeline. When it begins to go by its history, or stops to, its open deals take the other chance. */
export async function changePipeline(
  context: Context,
  id: string,
  { version, ...patch }: Parsed<'PATCH /api/pipelines/:id', 'body'>,
): Promise<string | null> {
  const pipeline = await PipelineRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!pipeline) throw notFound('There is no such pipeline.');
  if (patch.name) await refuseName(context, patch.name, id);
  if (patch.active === false) await refuseLast(context, id);
  const isOther = patch.chances !== undefined && patch.chances !== pipeline.chances;
  await context.write.update(pipeline, patch, version);
  if (isOther) await retakeChances(context, id);
  return context.write.event(
    'change pipeline',
    `Changed the pipeline ${pipeline.name}`,
    requireActor(context).id,
  );
}

async function refuseLast(context: Context, id: string): Promise<void> {
  const others = await PipelineRow.count({
    where: { active: true, id: { [Op.ne]: id } },
    transaction: context.tx,
  });
  if (!others) throw conflict('This is the only pipeline in use. Add another before you retire it.');
  const stages = await Stage.findAll({ where: { pipelineId: id, kind: 'open' }, transaction: context.tx });
  const open = await Deal.count({
    where: { stageId: stages.map((stage) => stage.id) },
    transaction: context.tx,
  });
  if (open)
    throw conflict(
      `It has ${countedPlainly(open, 'open deal')}. Close or move ${open === 1 ? 'it' : 'them'} before you retire it.`,
    );
}

async function retakeChances(context: Context, pipelineId: string): Promise<void> {
  const stages = await Stage.findAll({ where: { pipelineId, kind: 'open' }, transaction: context.tx });
  for (const stage of stages) {
    const probability = await usualChanceOf(context, stage);
    const deals = await Deal.findAll({
      where: { stageId: stage.id, probabilityByHand: false },
      transaction: context.tx,
      lock: true,
    });
    for (const deal of deals) await context.write.update(deal, { probability });
  }
}

async function refuseStageName(
  context: Context,
  pipelineId: string,
  name: string,
  except = '',
): Promise<void> {
  const same = await Stage.findOne({ where: { pipelineId, name }, transaction: context.tx });
  if (same && same.id !== except)
    throw invalid('The pipeline has a stage of that name.', { fields: { name: 'is taken' } });
}

/** Puts the stages of a pipeline into an order. */
async function place(context: Context, stages: readonly Stage[]): Promise<void> {
  for (const [at, stage] of stages.entries())
    if (stage.position !== at + 1) await context.write.update(stage, { position: at + 1 });
}

const inOrder = (context: Context, pipelineId: string): Promise<Stage[]> =>
  Stage.findAll({ where: { pipelineId }, order: ['position'], transaction: context.tx, lock: true });

export async function addStage(
  context: Context,
  given: Parsed<'POST /api/stages', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  await pipelineOf(context, given.pipelineId);
  await refuseStageName(context, given.pipelineId, given.name);
  const stages = await inOrder(context, given.pipelineId);
  const made = await context.write.insert(Stage, {
    id: context.newId(),
    ...given,
    kind: 'open',
    position: 0,
  });
  const end = stages.findIndex((stage) => stage.kind !== 'open');
  stages.splice(end < 0 ? stages.length : end, 0, made);
  await place(context, stages);
  return {
    id: made.id,
    eventId: await context.write.event('add stage', `Added ${label(made)}`, requireActor(context).id),
  };
}

export async function changeStage(
  context: Context,
  id: string,
  { version, position, ...patch }: Parsed<'PATCH /api/stages/:id', 'body'>,
): Promise<string | null> {
  const stage = await Stage.findByPk(id, { transaction: context.tx, lock: true });
  if (!stage) throw notFound('There is no such stage.');
  if (patch.name) await refuseStageName(context, stage.pipelineId, patch.name, id);
  await context.write.update(stage, patch, version);
  if (position !== undefined && position !== stage.position) {
    const others = (await inOrder(context, stage.pipelineId)).filter((one) => one.id !== id);
    others.splice(Math.max(0, position - 1), 0, stage);
    await place(context, others);
  }
  return context.write.event('change stage', `Changed ${label(stage)}`, requireActor(context).id);
}

/**
 * Removes a stage. Its deals go to another of the same kind, in the same transaction, so that none is ever without one.
 * @throws 409 when deals stand in it and it is not said where they go, or when it is the last of its kind
 */
export async function removeStage(
  context: Context,
  id: string,
  to: string | undefined,
): Promise<{ moved: number; eventId: string | null }> {
  const stage = await Stage.findByPk(id, { transaction: context.tx, lock: true });
  if (!stage) throw notFound('There is no such stage.');
  const stages = await inOrder(context, stage.pipelineId);
  if (stages.filter((one) => one.kind === stage.kind).length === 1)
    throw conflict(
      'A pipeline needs a stage of each kind: open, won and lost. This is the last of its kind.',
    );
  const deals = await Deal.findAll({ where: { stageId: id }, transaction: context.tx, lock: true });
  const target = to ? stages.find((stage) => stage.id === to && stage.id !== id) : undefined;
  if (to && !target)
    throw invalid('The deals cannot move to that stage.', {
      fields: { to: 'is not another stage of this pipeline' },
    });
  if (deals.length && !target)
    throw conflict(
      `${stage.name} has ${countedPlainly(deals.length, 'deal')}. Choose the stage to move ${deals.length === 1 ? 'it' : 'them'} to.`,
    );
  if (target)
    for (const deal of deals) await moveTo(context, deal, target, { keepsSince: target.kind !== 'open' });
  await context.write.remove(stage);
  await place(
    context,
    stages.filter((stage) => stage.id !== id),
  );
  return {
    moved: deals.length,
    eventId: await context.write.event('remove stage', `Removed ${label(stage)}`, requireActor(context).id),
  };
}
