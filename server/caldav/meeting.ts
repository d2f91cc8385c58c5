import type { Occurrence } from '@emporikon/core/formats/calendarObject';
import { requireActor, type Context } from '../commands/context';
import { ContactPoint } from '../db/models/people';
import { Task } from '../db/models/tasks';
import { User } from '../db/models/users';
import { peopleOf, putPeople } from '../meetings/people';
import { taskOfFacts } from './facts';

const MOST_PEOPLE = 100;

/** Who comes besides whoever keeps the calendar, with what they answered. */
async function othersOf(
  context: Context,
  { attendees, organizer }: Occurrence,
): Promise<Occurrence['attendees']> {
  const me = await User.findByPk(requireActor(context).id, { transaction: context.tx });
  const mine = me?.email.toLowerCase();
  const all = [
    ...(organizer?.email.includes('@') ? [{ ...organizer, answer: 'accepted' as const }] : []),
    ...attendees,
  ];
  const others = new Map(all.filter(({ email }) => email !== mine).map((one) => [one.email, one]));
  return [...others.values()].slice(0, MOST_PEOPLE);
}

/** Brings who comes to a meeting to what the other calendar says; whom somebody added here stays. */
export async function putAttendees(context: Context, task: Task, there: Occurrence): Promise<void> {
  const others = await othersOf(context, there);
  const present = await peopleOf(context, task.id);
  const missing = others.filter(({ email }) => present.every((person) => person.email !== email));
  if (missing.length)
    await putPeople(context, task, [
      ...present.map(({ personId, userId, email, name }) => ({
        ...(personId ? { personId } : userId ? { userId } : { email }),
        name,
      })),
      ...missing,
    ]);
  for (const person of await peopleOf(context, task.id)) {
    const said = others.find(({ email }) => email === person.email);
    if (said && said.answer !== person.answer)
      await context.write.update(person, {
        answer: said.answer,
        answeredAt: said.answer === 'waiting' ? null : context.now(),
      });
  }
}

/**
 * A meeting that was made in the other calendar. The team sees it where somebody whom it knows comes to it and it is not
 * marked as private; anything else is the owner's, and to the others a time that is taken.
 */
export async function addMeeting(context: Context, there: Occurrence): Promise<Task> {
  const { id: me, timeZone } = requireActor(context);
  const addresses = (await othersOf(context, there)).map(({ email }) => email);
  const known = await ContactPoint.findAll({
    where: { kind: 'email', normalized: addresses },
    transaction: context.tx,
  });
  const people = [...new Set(known.map(({ personId }) => personId))];
  const task = await context.write.insert(Task, {
    id: context.newId(),
    kind: 'meeting',
    ...taskOfFacts(there.facts, timeZone),
    zone: timeZone,
    assigneeId: me,
    personId: people.length === 1 ? (people[0] ?? null) : null,
    ...{ companyId: null, leadId: null, dealId: null },
    // The other program reminds of it already.
    reminders: [],
    ...(people.length && !there.isPrivate ? {} : { visibility: 'named' as const, visibleTo: [me] }),
    createdBy: me,
    createdAt: context.now(),
  });
  await putAttendees(context, task, there);
  return task;
}
