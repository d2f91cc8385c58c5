import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { openCase } from '@emporikon/server/cases/open';
import { Project, ProjectStage } from '@emporikon/server/db/models/afterDeals';
import { Deal, DealRoleRow, Stage } from '@emporikon/server/db/models/deals';
import { Person } from '@emporikon/server/db/models/people';
import { enterWritten } from '@emporikon/server/ledger/change';
import { projectFromDeal } from '@emporikon/server/projects/fromDeal';
import { addTask } from '@emporikon/server/tasks/add';
import { changeTask } from '@emporikon/server/tasks/change';
import { DateTime } from 'luxon';
import { officeDay, ZONE } from './clock';

/** A project that is half delivered, from the newest won deal, and two cases of a customer: one answered, one not yet. */
export async function loadAfterDeals(
  at: (hoursAgo: number) => Tools,
  actorOf: (name: string) => Actor,
): Promise<void> {
  const by = <Result>(
    hoursAgo: number,
    name: string,
    command: (context: Context) => Promise<Result>,
  ): Promise<Result> => runInTransaction(at(hoursAgo), actorOf(name), command);
  const now = DateTime.fromJSDate(at(0).now(), { zone: ZONE });
  const won = await by(0, 'Mara Quill', async ({ tx }) => {
    const stages = await Stage.findAll({ where: { kind: 'won' }, transaction: tx });
    return Deal.findOne({
      where: { stageId: stages.map(({ id }) => id) },
      order: [['closedAt', 'DESC']],
      rejectOnEmpty: true,
      transaction: tx,
    });
  });
  const { id } = await by(9 * 24, 'Ines Tolland', (context) =>
    projectFromDeal(context, won.id, {
      dueOn: officeDay(now, 12).toISODate(),
      startsOn: officeDay(now, -8).toISODate(),
      ownerId: actorOf('Ines Tolland').id,
      take: { people: true, tasks: true, files: true, notes: true },
    }),
  );
  const stage = await ProjectStage.findOne({ where: { name: 'In progress' }, rejectOnEmpty: true });
  await by(6 * 24, 'Ines Tolland', async (context) => {
    const project = await Project.findByPk(id, { rejectOnEmpty: true, transaction: context.tx });
    await context.write.update(project, { stageId: stage.id, stageSince: context.now() });
    await context.write.event('move project', `Moved ${project.title} to In progress`, project.ownerId);
  });
  const tasks: [title: string, day: number, isDone: boolean][] = [
    ['Order frames and boxes', -5, true],
    ['Agree the delivery day', -2, true],
    ['Fit boxes and test brakes', 4, false],
    ['Train the drivers', 9, false],
  ];
  for (const [title, day, isDone] of tasks)
    await by(isDone ? 60 : 48, 'Ines Tolland', async (context) => {
      const task = await addTask(
        context,
        {
          title,
          kind: 'task',
          dueAt: officeDay(now, day).toISO() ?? '',
          allDay: true,
          zone: ZONE,
        },
        { projectId: id, companyId: won.companyId },
      );
      if (isDone) await changeTask(context, task, { done: true });
      else await context.write.event('set next move', `Set “${title}”`, task.assigneeId);
    });
  const role = await DealRoleRow.findOne({ where: { dealId: won.id }, rejectOnEmpty: true });
  const person = await Person.findByPk(role.personId, { rejectOnEmpty: true });
  const box = await by(30, 'Pell Garrick', (context) =>
    openCase(context, {
      title: 'Cold box stays warm',
      words:
        'The box on the third bike no longer cools below 12 degrees. They deliver cakes in it every morning.',
      personId: person.id,
      urgency: 'urgent',
      ownerId: actorOf('Pell Garrick').id,
    }),
  );
  await by(28, 'Pell Garrick', (context) =>
    enterWritten(context, {
      kind: 'call',
      side: 'ours',
      headline: 'Told them a mechanic comes with a new fan',
      outcome: 'spoke',
      about: [{ caseId: box.id }],
    }),
  );
  await by(5, 'Mara Quill', (context) =>
    openCase(context, {
      title: 'One key short in the delivery',
      words: 'Eleven keys for twelve locks. They ask whether a spare can come with the next parcel.',
      personId: person.id,
      urgency: 'normal',
      ownerId: actorOf('Mara Quill').id,
    }),
  );
}
