import { deliveryStateOf } from '@emporikon/core/outreach/deliveryStatus';
import { letterText } from '@emporikon/core/outreach/plainText';
import type { Arrival } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import type { Context } from '../commands/context';
import { noteReach } from '../consent/reach';
import type { Letter } from '../db/models/letters';
import { Mailbox } from '../db/models/mailboxes';
import { Person } from '../db/models/people';
import type { Task } from '../db/models/tasks';
import { User } from '../db/models/users';
import { requestEffect } from '../jobs/effect';
import { enter, linkEntry } from '../ledger/write';
import type { Rejected } from '../outside/post';
import { actorOf } from '../session/identify';
import { addTask } from '../tasks/add';
import { splitQuote } from './html';
import { keepInSent } from './keepInSent';
import { recipientsOf } from './read';

/** So much of what was written stands in the ledger itself; the message keeps all of it. */
const MOST_KEPT = 20_000;

/** A letter went out: it stands in the ledger of all it is to and about, and its follow-up is set. */
export async function settleSent(
  context: Context,
  letter: Letter,
  arrival: Arrival,
  rejected: readonly Rejected[],
): Promise<void> {
  const now = context.now();
  const own = letterText(splitQuote(letter.html)[0]);
  // Whoever reads the message could take the address of its writer for somebody else's.
  const reading = {
    ...arrival.reading,
    claims: [],
    message: { ...arrival.reading.message, side: 'ours' as const },
  };
  delete reading.message.nature;
  const { capture } = await storeCapture(context, { ...arrival, reading }, { by: 'letter', isPart: true });
  await context.write.update(capture, { state: 'filed', filedAt: now });
  const { personId, companyId, leadId, dealId, projectId, caseId } = letter;
  const about = { personId, companyId, leadId, dealId, projectId, caseId };
  const entry = await enter(
    context,
    {
      at: now,
      side: 'ours',
      kind: 'mail',
      headline: letter.subject,
      body: own.replace(/\s+/g, ' ').slice(0, 280),
      said: own.slice(0, MOST_KEPT),
      captureId: capture.id,
      actorId: letter.authorId,
      messageId: letter.messageId,
      thread: capture.thread ?? null,
    },
    about,
    { text: own, subject: letter.subject, nature: null },
  );
  for (const row of await recipientsOf(context, letter.id)) {
    const refusal = rejected.find(({ address }) => address.toLowerCase() === row.address);
    const status = /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(refusal?.words ?? '')?.[0] ?? '';
    await context.write.update(row, {
      captureId: capture.id,
      state: refusal ? deliveryStateOf('failed', status, refusal.words) : 'sent',
      ...(refusal ? { status, words: refusal.words.slice(0, 300), toldAt: now } : {}),
    });
    const state = row.state;
    if (state === 'full' || state === 'gone') await noteReach(context, row.address, state, row.words ?? '');
    if (!row.personId) continue;
    const person = await Person.findByPk(row.personId, { transaction: context.tx });
    await linkEntry(
      context,
      entry.id,
      { personId: row.personId, companyId: person?.companyId ?? null },
      row.way !== 'to',
    );
  }
  const task = await setFollowUp(context, letter, entry.id);
  await context.write.update(letter, {
    ...{ state: 'sent', sentAt: now, trouble: '', captureId: capture.id, updatedAt: now },
    ...(task ? { followUpTaskId: task.id } : {}),
  });
  await keepACopy(context, letter, capture.id);
}

async function setFollowUp(context: Context, letter: Letter, entryId: string): Promise<Task | null> {
  if (!letter.followUp) return null;
  const author = await User.findOne({
    where: { id: letter.authorId, active: true },
    transaction: context.tx,
  });
  if (!author) return null;
  const actor = await actorOf(author, context.tx);
  const { title, kind, dueAt, allDay } = letter.followUp;
  return addTask({ ...context, actor }, { title, kind, dueAt, allDay, entryId }, letter);
}

/** Where the writer's mailbox is read, what they sent from here stands in its Sent folder as well. */
async function keepACopy(context: Context, { authorId, id }: Letter, captureId: string): Promise<void> {
  const mailbox = await Mailbox.findOne({
    where: { userId: authorId },
    order: [['createdAt', 'ASC']],
    transaction: context.tx,
  });
  if (mailbox)
    await requestEffect(context, keepInSent, { mailboxId: mailbox.id, captureId }, { table: 'letters', id });
}
