import type { Parsed } from '@emporikon/contract';
import type { ProjectStage as StageView } from '@emporikon/contract/projects';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Project, ProjectStage } from '../db/models/afterDeals';
import { conflict, invalid, notFound } from '../http/problems';

/** The stages in order, with how many projects are in each. */
export async function listStages(context: Context): Promise<StageView[]> {
  return context.sequelize.query<StageView>(
    `SELECT s.id, s.version, s.name, s.kind, s.position, s.active, (SELECT count(*)::int FROM projects p WHERE p.stage_id = s.id) AS projects
       FROM project_stages s ORDER BY s.active DESC, s.position, s.name`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/** The stage that is named, or the first that is open. @throws 422 for none that is in use */
export async function projectStage(context: Context, id?: string): Promise<ProjectStage> {
  const stage = await ProjectStage.findOne({
    where: { active: true, ...(id ? { id } : { kind: 'open' as const }) },
    order: ['position'],
    transaction: context.tx,
  });
  if (!stage) throw invalid('There is no such stage of projects.', { fields: { stageId: 'does not exist' } });
  return stage;
}

export async function addStage(
  context: Context,
  { name, kind }: Parsed<'POST /api/project-stages', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const last = (await ProjectStage.max<number, ProjectStage>('position', { transaction: context.tx })) ?? 0;
  const stage = await context.write.insert(ProjectStage, {
    id: context.newId(),
    name,
    kind,
    position: last + 1,
  });
  const eventId = await context.write.event(
    'add project stage',
    `Added the project stage ${name}`,
    requireActor(context).id,
  );
  return { id: stage.id, eventId };
}

/** @throws 409 where the last open stage would go, or one that projects are in */
export async function changeStage(
  context: Context,
  id: string,
  { version, ...patch }: Parsed<'PATCH /api/project-stages/:id', 'body'>,
): Promise<{ eventId: string | null }> {
  const stage = await ProjectStage.findByPk(id, { transaction: context.tx, lock: true });
  if (!stage) throw notFound('There is no such stage of projects.');
  if (patch.active === false && stage.active) {
    const open = await ProjectStage.count({
      where: { kind: 'open', active: true },
      transaction: context.tx,
    });
    if (stage.kind === 'open' && open === 1) throw conflict('Projects need one open stage at least.');
    if (await Project.count({ where: { stageId: id, closedAt: null }, transaction: context.tx }))
      throw conflict('Open projects are in this stage. Move them first.');
  }
  await context.write.update(stage, patch, version);
  return {
    eventId: await context.write.event(
      'change project stage',
      `Changed the project stage ${stage.name}`,
      requireActor(context).id,
    ),
  };
}
