import { isCurrentAnswer, readAnswer, type InvitationAnswer } from '@emporikon/core/calendar/invitations';
import { readCalendar } from '@emporikon/core/formats/icalendar';
import type { Arrival } from '../captures/arrivals';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { pastSight } from '../commands/sight';
import { Invitation, TaskPerson } from '../db/models/meetings';
import { Task } from '../db/models/tasks';
import { enter } from '../ledger/write';
import { answerWords } from '@emporikon/core/calendar/answerWords';
import { taskIdOf } from './facts';

const CALENDAR = /^(?:text\/calendar|application\/ics)\b/i;
const LONGEST_COMMENT = 2000;

/** The answer that a message carries in a calendar file; null where it carries none. */
async function findAnswer(tools: Tools, { raw, reading }: Arrival): Promise<InvitationAnswer | null> {
  const { message } = reading;
  const position = message.attachments.findIndex(({ mediaType }) => CALENDAR.test(mediaType));
  const from = message.from?.address.toLowerCase();
  if (reading.kind !== 'email' || position < 0 || !from) return null;
  const part = await tools.readers.run('readAttachment', { raw, position });
  const file = part && readCalendar(new TextDecoder().decode(part.content));
  return file && readAnswer(file, [from]);
}

/** What an answer changes, once it is known to be one to the version that they were sent. */
async function apply(
  context: Context,
  person: TaskPerson,
  task: Task,
  answer: InvitationAnswer,
): Promise<void> {
  const comment = answer.comment.slice(0, LONGEST_COMMENT);
  const proposes = answer.proposes;
  await context.write.update(person, {
    answer: answer.answer,
    answeredAt: answer.at ? new Date(answer.at) : context.now(),
    comment,
    proposesStart: proposes ? new Date(proposes.start) : null,
    proposesEnd: proposes ? new Date(proposes.end) : null,
  });
  if (person.personId)
    await enter(
      context,
      {
        ...{ side: 'theirs', kind: 'mail', actorId: null, body: comment },
        headline: answerWords({ ...answer, proposes: answer.proposes?.start ?? null }, task.title, task.zone),
      },
      { personId: person.personId, companyId: task.companyId, leadId: task.leadId, dealId: task.dealId },
      { text: comment },
    );
}

/**
 * Takes the answer of somebody who was invited, from whichever mailbox it came. An answer to what was changed since, one that a
 * newer one overtook, and one of somebody who was not invited change nothing.
 * @returns whether the message was an answer to an invitation of ours; anything else is a capture as ever
 */
export async function takeInvitationAnswer(tools: Tools, arrival: Arrival): Promise<boolean> {
  const answer = await findAnswer(tools, arrival);
  const taskId = answer && taskIdOf(answer.uid);
  if (!answer || !taskId) return false;
  return runInTransaction(tools, null, (context) =>
    pastSight(context, async () => {
      const { tx } = context;
      const invited = await Invitation.findOne({ where: { taskId, email: answer.email }, transaction: tx });
      if (!invited) return false;
      const task = await Task.findByPk(taskId, { transaction: tx, lock: true });
      const person = await TaskPerson.findOne({
        where: { taskId, email: answer.email },
        transaction: tx,
        lock: true,
      });
      const known = {
        sequence: invited.sequence,
        answeredAt: person?.answeredAt?.toISOString() ?? null,
      };
      // Taken all the same: there is nothing in it for Arrivals.
      if (!task || task.doneAt || !person || !isCurrentAnswer(answer, known)) return true;
      await apply(context, person, task, answer);
      await context.write.event(
        'answer invitation',
        `${person.name || person.email}: ${answer.answer}, ${task.title}`,
        null,
      );
      return true;
    }),
  );
}
