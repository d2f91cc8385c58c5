import { isCurrentAnswer, readAnswer, type InvitationAnswer } from '@emporikon/core/calendar/invitations';
import { readCalendar } from '@emporikon/core/formats/icalendar';
import type { Arrival } from '../captures/arrivals';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { LedgerEntry } from '../db/models/ledger';
import { Invitation, TaskPerson } from '../db/models/meetings';
import { Task } from '../db/models/tasks';
import { enter } from '../ledger/write';
import { answerWords } from '@emporikon/core/calendar/answerWords';
import { taskIdOf } from './facts';

const CALENDAR = /^(?:text\/calendar|application\/ics)\b/i;
const LONGEST_COMMENT = 2000;
/** An answer is short; what is longer is no answer, and is not read. */
const LONGEST_FILE = 64 * 1024;

/** The answer that a message carries in a calendar file; null where it carries none. */
async function findAnswer(tools: Tools, { raw, reading }: Arrival): Promise<InvitationAnswer | null> {
  const { message } = reading;
  const position = message.attachments.findIndex(({ mediaType }) => CALENDAR.test(mediaType));
  const from = message.from?.address.toLowerCase();
  if (reading.kind !== 'email' || position < 0 || !from) return null;
  const part = await tools.readers.run('readAttachment', { raw, position });
  if (!part || part.content.length > LONGEST_FILE) return null;
  const file = readCalendar(new TextDecoder().decode(part.content));
  return file && readAnswer(file, [from]);
}

interface Taken {
  person: TaskPerson;
  task: Task;
  answer: InvitationAnswer;
  /** What they wrote, in their answer or in the mail around it. */
  words: string;
  messageId: string | null;
}

/** What an answer changes, once it is known to be one to the version that they were sent. */
async function apply(context: Context, { person, task, answer, words, messageId }: Taken): Promise<void> {
  const { proposes } = answer;
  await context.write.update(person, {
    answer: answer.answer,
    answeredAt: answer.at ? new Date(answer.at) : context.now(),
    comment: words,
    proposesStart: proposes ? new Date(proposes.start) : null,
    proposesEnd: proposes ? new Date(proposes.end) : null,
  });
  if (person.personId)
    await enter(
      context,
      {
        ...{ side: 'theirs', kind: 'mail', actorId: null, body: words, messageId },
        headline: answerWords({ ...answer, proposes: proposes?.start ?? null }, task.title, task.zone),
      },
      { personId: person.personId, companyId: task.companyId, leadId: task.leadId, dealId: task.dealId },
      { text: words },
    );
  await context.write.event(
    'answer invitation',
    `${person.name || person.email}: ${answer.answer}, ${task.title}`,
    null,
  );
}

/** The same message may come to two mailboxes. */
async function isKnown({ tx }: Context, messageId: string | null): Promise<boolean> {
  return messageId !== null && (await LedgerEntry.count({ where: { messageId }, transaction: tx })) > 0;
}

/**
 * Takes the answer of somebody who was invited, from whichever mailbox it came. An answer to what was changed since, one that a
 * newer one overtook, and one of somebody who was not invited change nothing; what they wrote in it is a message as ever.
 * @returns whether nothing of the message is left for Arrivals
 */
export async function takeInvitationAnswer(tools: Tools, arrival: Arrival): Promise<boolean> {
  const answer = await findAnswer(tools, arrival);
  const taskId = answer && taskIdOf(answer.uid);
  if (!answer || !taskId) return false;
  const { text, messageId } = arrival.reading.message;
  const words = (answer.comment || text.trim()).slice(0, LONGEST_COMMENT);
  return runInTransaction(tools, null, async (context) => {
    const { tx } = context;
    const email = answer.email;
    const invited = await Invitation.findOne({ where: { taskId, email }, transaction: tx });
    if (!invited) return false;
    if (await isKnown(context, messageId)) return true;
    const task = await Task.findByPk(taskId, { transaction: tx, lock: true });
    const person = await TaskPerson.findOne({ where: { taskId, email }, transaction: tx, lock: true });
    const known = {
      sequence: invited.sequence,
      answeredAt: person?.answeredAt?.toISOString() ?? null,
    };
    // Where it changes nothing, nothing that they wrote is lost all the same.
    if (!task || task.doneAt || !person || !isCurrentAnswer(answer, known)) return words === '';
    await apply(context, { person, task, answer, words, messageId });
    return true;
  });
}
