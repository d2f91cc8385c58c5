import type { Attendee } from '@emporikon/contract/tasks';
import type { Context } from '../commands/context';
import { Invitation } from '../db/models/meetings';
import type { Task } from '../db/models/tasks';
import { factsOf } from './facts';
import { peopleOf } from './people';

/** Who comes to a meeting, with what they answered and whether they were invited by mail. */
export async function attendeesOf(context: Pick<Context, 'tx' | 'now'>, task: Task): Promise<Attendee[]> {
  const people = await peopleOf(context, task.id);
  if (!people.length) return [];
  const sent = await Invitation.findAll({ where: { taskId: task.id }, transaction: context.tx });
  const facts = factsOf(task);
  const isToCome = facts !== null && Date.parse(facts.endsAt) > context.now().getTime();
  return people.map((person) => {
    const invitation = sent.find(({ email, told }) => told !== null && email === person.email);
    const { id, name, email, personId, userId, answer, answeredAt, comment, proposesStart, proposesEnd } =
      person;
    return {
      ...{ id, name, email, personId, userId, answer, comment },
      answeredAt: answeredAt?.toISOString() ?? null,
      proposes:
        proposesStart && proposesEnd
          ? { start: proposesStart.toISOString(), end: proposesEnd.toISOString() }
          : null,
      invited: invitation?.sentAt ? 'yes' : isToCome && email ? 'on its way' : 'no',
    };
  });
}
