import type { Stage as StageView } from '@emporikon/contract/deals';
import { usualChance, type Measured } from '@emporikon/core/lifecycle/stages';
import type { Context } from '../commands/context';
import { Stage } from '../db/models/deals';
import { PipelineRow } from '../db/models/pipelines';
import { invalid, notFound } from '../http/problems';
import { measuredStages } from './measured';

/** Stages of active pipelines, in the order of pipelines and of their place in them. */
export async function loadStages(context: Context, pipelineId?: string): Promise<Stage[]> {
  const pipelines = await PipelineRow.findAll({ order: ['position', 'name'], transaction: context.tx });
  const order = new Map(pipelines.map((pipeline, at) => [pipeline.id, at]));
  const stages = await Stage.findAll({
    where: pipelineId ? { pipelineId } : {},
    order: ['position'],
    transaction: context.tx,
  });
  return stages.sort((a, b) => (order.get(a.pipelineId) ?? 0) - (order.get(b.pipelineId) ?? 0));
}

/** The pipeline asked for, else the first active one. @throws 404 */
export async function pipelineOf(context: Context, id?: string): Promise<PipelineRow> {
  const found = id
    ? await PipelineRow.findByPk(id, { transaction: context.tx })
    : await PipelineRow.findOne({
        where: { active: true },
        order: ['position', 'name'],
        transaction: context.tx,
      });
  if (!found) throw notFound('There is no such pipeline.');
  return found;
}

/** The stage named, else the first open one of the first pipeline. @throws 422 */
export async function stageFor(context: Context, id: string | undefined): Promise<Stage> {
  const stage = id
    ? await Stage.findByPk(id, { transaction: context.tx })
    : await Stage.findOne({
        where: { kind: 'open', pipelineId: (await pipelineOf(context)).id },
        order: ['position'],
        transaction: context.tx,
      });
  if (!stage) throw invalid('There is no such stage.', { fields: { stageId: 'does not exist' } });
  return stage;
}

/** The chance a deal gets that comes to a stage: measured only where its pipeline goes by history. */
export async function usualChanceOf(context: Context, stage: Stage): Promise<number> {
  const { chances } = await pipelineOf(context, stage.pipelineId);
  return usualChance(
    stage,
    chances,
    chances === 'measured' ? (await measuredStages(context)).get(stage.id) : undefined,
  );
}

function asStage(stage: Stage, chances: 'given' | 'measured', measured: Measured | undefined): StageView {
  const { id, version, pipelineId, name, position, kind, probability, typicalDays, asks = [] } = stage;
  return {
    id,
    version,
    pipelineId,
    name,
    position,
    kind,
    probability,
    typicalDays,
    asks,
    usualChance: usualChance(stage, chances, measured),
    usualDays: measured?.typicalDays ?? typicalDays,
    measured: measured
      ? {
          closed: measured.closed,
          won: measured.won,
          share: measured.share,
          low: measured.low,
          high: measured.high,
          typicalDays: measured.typicalDays,
        }
      : null,
  };
}

/** Stages with what is usual of them. */
export async function stageViews(context: Context, stages: readonly Stage[]): Promise<StageView[]> {
  const measured = await measuredStages(context);
  const chances = new Map(
    (await PipelineRow.findAll({ transaction: context.tx })).map((one) => [one.id, one.chances]),
  );
  return stages.map((stage) =>
    asStage(stage, chances.get(stage.pipelineId) ?? 'given', measured.get(stage.id)),
  );
}
