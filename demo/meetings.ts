import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { TaskPerson } from '@emporikon/server/db/models/meetings';
import { enterOutcome } from '@emporikon/server/meetings/held';
import { addTask, type WantedTask } from '@emporikon/server/tasks/add';
import { DateTime } from 'luxon';
import { officeDay, ZONE } from './clock';

/** The meetings of this week, with who comes; one of the last is over and what came of it is entered. */
export async function loadMeetings(
  at: (hoursAgo: number) => Tools,
  actorOf: (name: string) => Actor,
  personId: string,
): Promise<void> {
  const [pell, ines, mara] = ['Pell Garrick', 'Ines Tolland', 'Mara Quill'].map(actorOf) as [
    Actor,
    Actor,
    Actor,
  ];
  const now = DateTime.fromJSDate(at(0).now(), { zone: ZONE });
  const timeOn = (days: number, time: string): string => {
    const [hour = 9, minute = 0] = time.split(':').map(Number);
    return officeDay(now, days).set({ hour, minute }).toISO() ?? '';
  };
  const meet = (
    by: Actor,
    day: number,
    [from, until]: [string, string],
    wanted: Pick<WantedTask, 'title'> & Partial<WantedTask>,
    about = {},
  ) =>
    runInTransaction(at(70), by, async (context) => {
      const task = await addTask(
        context,
        {
          ...{ kind: 'meeting', allDay: false, zone: ZONE },
          ...{ dueAt: timeOn(day, from), endAt: timeOn(day, until) },
          ...wanted,
        },
        about,
      );
      await context.write.event('set next move', `Set “${task.title}”`, by.id);
      return task;
    });
  await meet(mara, 1, ['09:00', '09:15'], {
    title: 'Stand-up',
    repeat: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
    people: [{ userId: pell.id }, { userId: ines.id }],
  });
  const ride = await meet(
    pell,
    1,
    ['11:00', '12:00'],
    {
      title: 'Trial ride with the cold box',
      place: 'Quay 4, Lisbon',
      people: [{ personId }, { userId: ines.id }],
    },
    { personId },
  );
  await meet(ines, 2, ['14:00', '15:30'], {
    title: 'Visit the bakery school',
    kind: 'visit',
    place: 'Bristol',
  });
  await meet(pell, 3, ['10:00', '10:45'], { title: 'Prices for spring', people: [{ userId: mara.id }] });
  const shop = await meet(
    pell,
    -1,
    ['15:00', '15:40'],
    { title: 'Walk through the shop', place: 'By phone' },
    { personId },
  );
  await runInTransaction(at(18), ines, async (context) => {
    for (const person of await TaskPerson.findAll({ where: { taskId: ride.id }, transaction: context.tx }))
      await context.write.update(person, { answer: 'accepted', answeredAt: context.now() });
    await context.write.event('answer invitation', `Accepted: ${ride.title}`, ines.id);
  });
  await runInTransaction(at(17), pell, (context) =>
    enterOutcome(context, shop.id, 'Saw the back door: a long bike fits through it', 'spoke', []),
  );
}
