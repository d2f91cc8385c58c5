import { BaseError, QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { readMail, type Arrival } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import { takeInvitationAnswer } from '../meetings/answers';
import { takeUnsubscribing } from '../consent/stops';
import { isLetterId, isMailSystem, takeReport } from '../letters/reports';
import { isReplyToTask, takeTaskReply } from '../tasks/replies';
import type { Mailbox } from '../db/models/mailboxes';
import { isDatabaseGone } from '../db/conflicts';
import { erasuresOf } from '../privacy/marks';
import { ProblemError } from '../http/problems';
import type { OpenFolder, Seen } from '../outside/imap';
import { fileMessage } from './file';
import { isNever, partiesOf, peopleBy } from './sort';

interface FolderState {
  uid_validity: number;
  uid_next: number;
}

export async function stateOf(
  context: Context,
  mailboxId: string,
  path: string,
): Promise<FolderState | null> {
  const [row] = await context.sequelize.query<FolderState>(
    'SELECT uid_validity, uid_next FROM mailbox_folders WHERE mailbox_id = :mailboxId AND path = :path',
    { replacements: { mailboxId, path }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row ?? null;
}

export const keepState = (
  context: Context,
  mailboxId: string,
  folder: OpenFolder,
  uidNext: number,
): Promise<unknown> =>
  context.sequelize.query(
    `INSERT INTO mailbox_folders (mailbox_id, path, uid_validity, uid_next) VALUES (:mailboxId, :path, :validity, :uidNext)
     ON CONFLICT (mailbox_id, path) DO UPDATE SET uid_validity = excluded.uid_validity, uid_next = excluded.uid_next`,
    {
      replacements: { mailboxId, path: folder.path, validity: folder.uidValidity, uidNext },
      transaction: context.tx,
    },
  );

/** Notes with whom a message is, so that people we write with often can be proposed, and their messages found again. */
async function note(
  context: Context,
  mailbox: Mailbox,
  folder: OpenFolder,
  seen: Seen,
  isFiled: boolean,
): Promise<void> {
  const { sentByUs, parties } = partiesOf(context, mailbox, seen);
  const erased = await erasuresOf(
    context,
    parties.map(({ address, name }) => ({ name, emails: [{ normalized: address }], phones: [], links: [] })),
  );
  /** What was written before somebody was erased does not bring them back. */
  const isErased = (at: number): boolean => (erased[at]?.getTime() ?? 0) > seen.at.getTime();
  for (const [at, { address, name }] of parties.entries())
    if (!isNever(mailbox, address) && !isErased(at))
      await context.sequelize.query(
        `INSERT INTO mailbox_messages (mailbox_id, path, uid_validity, uid, message_id, address, name, sent_by_us, at, filed)
         VALUES (:mailboxId, :path, :validity, :uid, :messageId, :address, :name, :sentByUs, :at, :isFiled) ON CONFLICT DO NOTHING`,
        {
          replacements: {
            mailboxId: mailbox.id,
            path: folder.path,
            validity: folder.uidValidity,
            uid: seen.uid,
            messageId: seen.messageId,
            address,
            name: name.slice(0, 200),
            sentByUs,
            at: seen.at,
            isFiled,
          },
          transaction: context.tx,
        },
      );
}

interface Planned {
  seen: Seen;
  /** The people it is with. */
  people: string[];
  /** Whether a colleague answers in it what was mailed about a task. */
  isTaskReply: boolean;
  /** Whether it may say what became of a letter of ours. */
  isReport: boolean;
}

/** Which people each message of a batch is with. */
export async function planBatch(
  tools: Tools,
  actor: Actor,
  mailbox: Mailbox,
  batch: readonly Seen[],
): Promise<Planned[]> {
  return runInTransaction(tools, actor, async (context) => {
    const parties = batch.map((seen) =>
      partiesOf(context, mailbox, seen).parties.filter((party) => !isNever(mailbox, party.address)),
    );
    const known = await peopleBy(
      context,
      parties.flat().map((party) => party.address),
    );
    return batch.map((seen, index) => {
      const ids = (parties[index] ?? [])
        .map((party) => known.get(party.address))
        .filter((id) => id !== undefined);
      return {
        seen,
        people: [...new Set(ids)],
        isTaskReply: isReplyToTask(seen.inReplyTo),
        isReport: isLetterId(seen.inReplyTo) || isMailSystem(seen.from?.address ?? ''),
      };
    });
  });
}

/** Whether it is this message that cannot be filed, rather than the database or the program that is out of order. */
const isOwnFault = (error: unknown): error is Error =>
  error instanceof ProblemError || (error instanceof BaseError && !isDatabaseGone(error));

/**
 * Takes one message, in one transaction with where the next begins; cut off, it is read again and nothing doubles. One
 * that cannot be filed waits in Arrivals with the reason, and the mailbox goes on.
 */
export async function takeMessage(
  tools: Tools,
  actor: Actor,
  mailbox: Mailbox,
  folder: OpenFolder,
  { seen, people, isTaskReply, isReport }: Planned,
  raw: Buffer | undefined,
): Promise<void> {
  const take = async (arrival: Arrival | null, reason: string | null): Promise<void> => {
    await runInTransaction(tools, actor, async (context) => {
      if (arrival && reason === null && mailbox.choice === 'all')
        await fileMessage(context, arrival, seen.at, people);
      else if (arrival) await storeCapture(context, arrival, { by: 'mailbox' });
      if (reason !== null) await setAside(context, mailbox, folder, seen, reason);
      await note(context, mailbox, folder, seen, arrival !== null);
      await keepState(context, mailbox.id, folder, seen.uid + 1);
    });
  };
  let arrival: Arrival | null = null;
  try {
    arrival = raw ? await readMail(tools, actor, raw) : null;
    // What answers an invitation or a task of ours is noted there, and nothing for Arrivals.
    const isAnswer =
      arrival !== null &&
      ((isTaskReply && (await takeTaskReply(tools, arrival))) ||
        (await takeInvitationAnswer(tools, arrival)) ||
        (isReport && (await takeReport(tools, arrival))) ||
        (await takeUnsubscribing(tools, arrival)));
    await take(isAnswer || !people.length ? null : arrival, null);
  } catch (error) {
    if (!isOwnFault(error)) throw error;
    const reason = error instanceof ProblemError ? error.problem.detail : 'It could not be kept as it is.';
    const waiting = arrival && {
      ...arrival,
      reading: {
        ...arrival.reading,
        notices: [...arrival.reading.notices, `Not filed automatically: ${reason}`],
      },
    };
    try {
      await take(waiting, reason);
    } catch (again) {
      if (!isOwnFault(again)) throw again;
      await take(null, reason);
    }
  }
}

const setAside = (
  context: Context,
  mailbox: Mailbox,
  folder: OpenFolder,
  seen: Seen,
  reason: string,
): Promise<unknown> =>
  context.sequelize.query(
    `INSERT INTO mailbox_set_aside (mailbox_id, path, uid_validity, uid, sender, reason, at)
     VALUES (:mailboxId, :path, :validity, :uid, :sender, :reason, :now) ON CONFLICT DO NOTHING`,
    {
      replacements: {
        mailboxId: mailbox.id,
        path: folder.path,
        validity: folder.uidValidity,
        uid: seen.uid,
        sender: seen.from?.address ?? '',
        reason: reason.slice(0, 500),
        now: context.now(),
      },
      transaction: context.tx,
    },
  );
