import { requireActor, type Context } from '../commands/context';
import type { Answer } from '@emporikon/core/formats/icalendar';
import { TaskPerson } from '../db/models/meetings';
import { ContactPoint, Person } from '../db/models/people';
import type { Task } from '../db/models/tasks';
import { User } from '../db/models/users';
import { conflict, forbidden, invalid } from '../http/problems';

/** Somebody to come, as they are asked for. */
export interface WantedPerson {
  personId?: string | undefined;
  userId?: string | undefined;
  email?: string | undefined;
  name?: string | undefined;
}

type Known = Pick<TaskPerson, 'personId' | 'userId' | 'name' | 'email'>;
const MOST = 100;

async function knownPerson(context: Context, id: string): Promise<Known> {
  const person = await Person.findByPk(id, { transaction: context.tx });
  if (!person) throw invalid('There is no such person.', { fields: { people: 'names nobody' } });
  const email = await ContactPoint.findOne({
    where: { personId: id, kind: 'email' },
    order: [['createdAt', 'ASC']],
    transaction: context.tx,
  });
  return {
    ...{ personId: id, userId: null, email: email?.normalized ?? '' },
    name: person.fullName || (email?.normalized ?? 'Nobody'),
  };
}

async function knownColleague(context: Context, id: string): Promise<Known> {
  const user = await User.findOne({ where: { id, active: true }, transaction: context.tx });
  if (!user) throw invalid('There is no such colleague.', { fields: { people: 'names nobody' } });
  return { personId: null, userId: id, name: user.name, email: user.email.toLowerCase() };
}

async function known(context: Context, wanted: WantedPerson): Promise<Known> {
  if (wanted.personId) return knownPerson(context, wanted.personId);
  if (wanted.userId) return knownColleague(context, wanted.userId);
  if (!wanted.email)
    throw invalid('Say who comes: a person, a colleague or an address.', {
      fields: { people: 'names nobody' },
    });
  const email = wanted.email.toLowerCase();
  const colleague = await User.findOne({ where: { email, active: true }, transaction: context.tx });
  if (colleague) return knownColleague(context, colleague.id);
  const contact = await ContactPoint.findOne({
    where: { kind: 'email', normalized: email },
    transaction: context.tx,
  });
  const person = contact && (await knownPerson(context, contact.personId));
  return person ? { ...person, email } : { personId: null, userId: null, name: wanted.name ?? '', email };
}

const keyOf = ({ personId, userId, email }: Known): string => personId ?? userId ?? email;

/**
 * Says who comes to a meeting, besides whoever holds it. Those who stay keep what they answered.
 * @throws 422 for nobody, or for more than a hundred
 */
export async function putPeople(
  context: Context,
  task: Task,
  wanted: readonly WantedPerson[],
): Promise<void> {
  const next = new Map<string, Known>();
  for (const one of wanted) {
    const found = await known(context, one);
    if (found.userId !== task.assigneeId) next.set(keyOf(found), found);
  }
  if (next.size > MOST)
    throw invalid(`A meeting has at most ${MOST} people.`, { fields: { people: 'are too many' } });
  const present = await peopleOf(context, task.id);
  for (const row of present) if (!next.has(keyOf(row))) await context.write.remove(row);
  const kept = new Set(present.map(keyOf));
  for (const [key, one] of next)
    if (!kept.has(key))
      await context.write.insert(TaskPerson, { id: context.newId(), taskId: task.id, ...one });
}

/** Who comes to a meeting, colleagues last. */
export const peopleOf = (context: Pick<Context, 'tx'>, taskId: string): Promise<TaskPerson[]> =>
  TaskPerson.findAll({
    where: { taskId },
    order: [['userId', 'DESC NULLS FIRST'], 'name', 'email', 'id'],
    transaction: context.tx,
  });

/** The same people for the next meeting of a series; nobody has answered for that one. */
export async function copyPeople(context: Context, from: string, to: string): Promise<void> {
  for (const { personId, userId, name, email } of await peopleOf(context, from))
    await context.write.insert(TaskPerson, {
      ...{ id: context.newId(), taskId: to },
      ...{ personId, userId, name, email },
    });
}

/**
 * A colleague says whether they come.
 * @throws 403 for whoever is not asked, 409 once it is over
 */
export async function answerFor(context: Context, task: Task, answer: Answer): Promise<string | null> {
  const actor = requireActor(context);
  const mine = await TaskPerson.findOne({
    where: { taskId: task.id, userId: actor.id },
    transaction: context.tx,
    lock: true,
  });
  if (!mine) throw forbidden('You are not asked to come to this meeting.');
  if (task.doneAt) throw conflict('This meeting is over.');
  await context.write.update(mine, { answer, answeredAt: context.now() });
  return context.write.event('answer invitation', `${actor.name}: ${answer}, ${task.title}`, actor.id);
}
