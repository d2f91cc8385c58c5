import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { RhythmRow } from '@emporikon/server/db/models/round';
import { ClosedDay, TaskKind } from '@emporikon/server/db/models/tasks';
import { addTask, type WantedTask } from '@emporikon/server/tasks/add';
import { changeTask } from '@emporikon/server/tasks/change';
import { say } from '@emporikon/server/tasks/delegate';
import { DateTime } from 'luxon';
import { officeDay, ZONE } from './clock';

const dueOn = (now: DateTime, days: number): string => officeDay(now, days).toISO() ?? '';

/** How the firm works: what it calls a test ride, when it is closed, how often it speaks to customers. */
async function loadCustoms(context: Context): Promise<void> {
  const { write, newId } = context;
  await write.insert(TaskKind, { id: newId(), name: 'Test ride', actsAs: 'meeting' });
  const year = context.now().getUTCFullYear();
  await write.insert(ClosedDay, { id: newId(), day: `${year}-12-24`, name: 'Stocktaking' });
  await write.insert(RhythmRow, { id: newId(), kind: 'standing', value: 'customer', days: 60 });
  await write.event('load demo', 'Set up working days and rhythms', null);
}

/** Tasks that colleagues gave each other, and what came of them. */
export async function loadTasks(
  at: (hoursAgo: number) => Tools,
  actorOf: (name: string) => Actor,
  personId: string,
): Promise<void> {
  const [pell, ines, mara, joss] = ['Pell Garrick', 'Ines Tolland', 'Mara Quill', 'Joss Ferrow'].map(
    actorOf,
  ) as [Actor, Actor, Actor, Actor];
  const now = DateTime.fromJSDate(at(0).now(), { zone: ZONE });
  const give = (
    by: Actor,
    to: Actor,
    wanted: Omit<WantedTask, 'kind' | 'allDay' | 'assigneeId'>,
    about = {},
  ) =>
    runInTransaction(at(50), by, async (context) => {
      const task = await addTask(
        context,
        { kind: 'task', allDay: true, zone: ZONE, ...wanted, assigneeId: to.id },
        about,
      );
      await context.write.event('set next move', `Set “${task.title}”`, by.id);
      return task;
    });
  await runInTransaction(at(30 * 24), mara, loadCustoms);
  const sheet = await give(
    pell,
    ines,
    {
      title: 'Payload sheet for Padaria Sol',
      dueAt: dueOn(now, 1),
      notes: 'With the cold box on the long bike. She reads it on her phone.',
      checklist: [
        { words: 'Weigh the cold box', isDone: true },
        { words: 'Draw it up', isDone: false },
      ],
    },
    { personId },
  );
  await give(pell, joss, {
    title: 'Fix the price list',
    dueAt: dueOn(now, -2),
    repeat: 'FREQ=MONTHLY;BYDAY=1MO',
    priority: 'high',
  });
  const photos = await give(pell, mara, { title: 'Photos of the cold box', dueAt: dueOn(now, 1) });
  await runInTransaction(at(20), ines, (context) =>
    say(context, sheet.id, 'With or without the rain cover?'),
  );
  await runInTransaction(at(3), mara, async (context) => {
    const task = await photos.reload({ transaction: context.tx });
    await changeTask(context, task, { done: true });
  });
}
