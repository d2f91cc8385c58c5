import { readTaskReply } from '@emporikon/core/ledger/taskReply';
import { QueryTypes } from 'sequelize';
import type { Arrival } from '../captures/arrivals';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { Task } from '../db/models/tasks';
import { User } from '../db/models/users';
import { actorOf } from '../session/identify';
import { changeTask } from './change';
import { say } from './delegate';

const UUID = '[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}';
/** The Message-ID of a mail about a task: the task, and the mail that went out. */
const OURS = new RegExp(`^<task\\.(${UUID})\\.(${UUID})@`);
/** Whether a message answers one that was mailed about a task, by the Message-ID that it names. */
export const isReplyToTask = (inReplyTo: string | null): boolean => OURS.test(inReplyTo ?? '');

const LONGEST = 5000;
/** The Message-ID of any mail of ours to a colleague, and the mail that went out. */
const NOTICE = new RegExp(`^<(?:task\\.${UUID}|meeting\\.${UUID}|notices|round|password)\\.(${UUID})@`);

const LONGEST_HEAD = 65_536;
/** RFC 3834, and the older headers of the same meaning. */
const AUTOMATIC = /^(?:auto-submitted:\s*(?!no\b)\S|precedence:\s*(?:auto_reply|bulk|junk)\b|x-autoreply:)/im;
/** Whether a machine sent a message: an answer while somebody is away, or a notice of ours that came round. */
function isAutomatic(raw: Buffer): boolean {
  const head = raw.subarray(0, LONGEST_HEAD).toString('latin1');
  const end = /\r?\n\r?\n/.exec(head)?.index ?? head.length;
  return AUTOMATIC.test(head.slice(0, end));
}

interface Answered {
  actor: Actor;
  taskId: string;
}

/** Whose answer to which task a message is: it names the mail that was sent to this very colleague. */
async function findAnswered(tools: Tools, { reading }: Arrival): Promise<Answered | null> {
  const { message } = reading;
  const from = message.from?.address.toLowerCase();
  const named = message.references.flatMap((reference) => {
    const [, taskId = '', outboxId = ''] = OURS.exec(reference) ?? [];
    return taskId ? [{ taskId, outboxId }] : [];
  });
  if (!from || !named.length) return null;
  return runInTransaction(tools, null, async ({ sequelize, tx }) => {
    for (const { taskId, outboxId } of named.reverse()) {
      const [known] = await sequelize.query<{ userId: string }>(
        `SELECT payload ->> 'userId' AS "userId" FROM outbox WHERE id = $outboxId AND kind = 'mailNotices'`,
        { bind: { outboxId }, type: QueryTypes.SELECT, transaction: tx },
      );
      const user =
        known && (await User.findOne({ where: { id: known.userId, active: true }, transaction: tx }));
      if (user && user.email.toLowerCase() === from) return { actor: await actorOf(user, tx), taskId };
    }
    return null;
  });
}

/** Whether a message is a notice of ours that was mailed to a colleague and came round to us. */
async function isOwnNotice(tools: Tools, messageId: string | null): Promise<boolean> {
  const id = NOTICE.exec(messageId ?? '')?.[1];
  if (!id) return false;
  return runInTransaction(tools, null, async ({ sequelize, tx }) => {
    const rows = await sequelize.query(
      "SELECT 1 FROM outbox WHERE id = $id AND kind IN ('mailNotices', 'mailRound', 'mailInvitation', 'mailPasswordLink')",
      { bind: { id }, type: QueryTypes.SELECT, transaction: tx },
    );
    return rows.length > 0;
  });
}

/**
 * Takes a colleague's reply to the mail about a task: what they say stands on the task, and “done” makes it done. The same
 * mail twice is one. A notice of ours that comes round, because colleagues have their mail where we take ours, is dropped.
 * @returns whether it was one; anything else is a capture as ever
 */
export async function takeTaskReply(tools: Tools, arrival: Arrival): Promise<boolean> {
  if (await isOwnNotice(tools, arrival.reading.message.messageId)) return true;
  const answered = await findAnswered(tools, arrival);
  if (!answered) return false;
  const { message } = arrival.reading;
  // A machine that answers would be answered by another.
  if (isAutomatic(arrival.raw)) return true;
  const { isDone, words } = readTaskReply(message.text, message.subject, message.from?.name ?? '');
  return runInTransaction(tools, answered.actor, async (context) => {
    const task = await Task.findByPk(answered.taskId, { transaction: context.tx, lock: true });
    if (!task) return false;
    if (words)
      await say(context, task.id, words.slice(0, LONGEST), message.messageId ?? `<${arrival.sha256}>`);
    if (isDone && !task.doneAt) await changeTask(context, task, { done: true });
    return true;
  });
}
