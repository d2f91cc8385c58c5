import type { Parsed } from '@emporikon/contract';
import { requireColleague } from '../commands/colleague';
import { requireActor, type Context } from '../commands/context';
import { Project, ProjectPerson } from '../db/models/afterDeals';
import { Company, Person } from '../db/models/people';
import { invalid } from '../http/problems';
import { projectStage } from './stages';

type Given = Omit<Parsed<'POST /api/projects', 'body'>, 'people'> & { dealId?: string };

/** @throws 422 for a project that would end before it starts */
export function checkDays(startsOn: string | null, dueOn: string | null): void {
  if (startsOn && dueOn && startsOn > dueOn)
    throw invalid('A project starts before it is due.', { fields: { startsOn: 'is after it is due' } });
}

/** @throws 422 where there is none */
export async function requireCompany(context: Context, id: string): Promise<string> {
  if (!(await Company.findByPk(id, { attributes: ['id'], transaction: context.tx })))
    throw invalid('There is no such company.', { fields: { companyId: 'does not exist' } });
  return id;
}

export async function makeProject(context: Context, given: Given): Promise<Project> {
  const stage = await projectStage(context, given.stageId);
  const [startsOn, dueOn] = [given.startsOn ?? null, given.dueOn ?? null];
  checkDays(startsOn, dueOn);
  return context.write.insert(Project, {
    id: context.newId(),
    title: given.title,
    stageId: stage.id,
    stageSince: context.now(),
    companyId: given.companyId ? await requireCompany(context, given.companyId) : null,
    dealId: given.dealId ?? null,
    ownerId: given.ownerId ? await requireColleague(context, given.ownerId) : requireActor(context).id,
    startsOn,
    dueOn,
    notes: given.notes ?? '',
    createdAt: context.now(),
    closedAt: stage.kind === 'open' ? null : context.now(),
  });
}

/** Puts people on a project who are not on it yet. @throws 422 for somebody who does not exist */
export async function putOn(
  context: Context,
  projectId: string,
  people: readonly { personId: string; role: string }[],
): Promise<void> {
  for (const { personId, role } of people) {
    const there = await ProjectPerson.findOne({ where: { projectId, personId }, transaction: context.tx });
    if (there) {
      if (role && there.role !== role) await context.write.update(there, { role });
      continue;
    }
    if (!(await Person.findByPk(personId, { attributes: ['id'], transaction: context.tx })))
      throw invalid('There is no such person.', { fields: { people: 'does not exist' } });
    await context.write.insert(ProjectPerson, { id: context.newId(), projectId, personId, role });
  }
}

export async function addProject(
  context: Context,
  { people = [], ...given }: Parsed<'POST /api/projects', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const project = await makeProject(context, given);
  await putOn(
    context,
    project.id,
    people.map((personId) => ({ personId, role: '' })),
  );
  const eventId = await context.write.event(
    'add project',
    `Added the project ${project.title}`,
    requireActor(context).id,
  );
  return { id: project.id, eventId };
}
