import type { Parsed } from '@emporikon/contract';
import { requireColleague } from '../commands/colleague';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { Project, ProjectPerson } from '../db/models/afterDeals';
import { notFound, stale } from '../http/problems';
import { checkDays, putOn, requireCompany } from './make';
import { projectStage } from './stages';

async function loadProject(context: Context, id: string): Promise<Project> {
  const project = await Project.findByPk(id, { transaction: context.tx, lock: true });
  if (!project) throw notFound('There is no such project.');
  return project;
}

/** @throws 404, 409 where it was changed meanwhile */
export async function changeProject(
  context: Context,
  id: string,
  { version, stageId, ownerId, companyId, because, ...patch }: Parsed<'PATCH /api/projects/:id', 'body'>,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const project = await loadProject(context, id);
  if (project.version !== version) throw stale(rowOf(project));
  const stage = stageId && stageId !== project.stageId ? await projectStage(context, stageId) : null;
  checkDays(
    patch.startsOn === undefined ? project.startsOn : patch.startsOn,
    patch.dueOn === undefined ? project.dueOn : patch.dueOn,
  );
  await context.write.update(
    project,
    {
      ...patch,
      ...(companyId === undefined
        ? {}
        : { companyId: companyId && (await requireCompany(context, companyId)) }),
      ...(ownerId && ownerId !== project.ownerId
        ? { ownerId: await requireColleague(context, ownerId) }
        : {}),
      ...(stage
        ? {
            stageId: stage.id,
            stageSince: context.now(),
            closedAt: stage.kind === 'open' ? null : (project.closedAt ?? context.now()),
          }
        : {}),
    },
    version,
  );
  const eventId = await context.write.event(
    stage ? 'move project' : 'change project',
    stage ? `Moved ${project.title} to ${stage.name}` : `Changed ${project.title}`,
    requireActor(context).id,
  );
  return { version: project.version, eventId };
}

export async function putPerson(
  context: Context,
  id: string,
  person: { personId: string; role: string },
): Promise<{ eventId: string | null }> {
  const project = await loadProject(context, id);
  await putOn(context, id, [person]);
  return {
    eventId: await context.write.event(
      'set project people',
      `Changed who is on ${project.title}`,
      requireActor(context).id,
    ),
  };
}

export async function takeOff(
  context: Context,
  id: string,
  personId: string,
): Promise<{ eventId: string | null }> {
  const project = await loadProject(context, id);
  const row = await ProjectPerson.findOne({ where: { projectId: id, personId }, transaction: context.tx });
  if (!row) throw notFound('They are not on this project.');
  await context.write.remove(row);
  return {
    eventId: await context.write.event(
      'set project people',
      `Changed who is on ${project.title}`,
      requireActor(context).id,
    ),
  };
}
