import type { In, Parsed } from '@emporikon/contract';
import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { readMail, type Arrival } from '../captures/arrivals';
import { requireActor, type Context } from '../commands/context';
import type { LetterRecipient } from '../db/models/letters';
import { Letter, Submission } from '../db/models/letters';
import { OutboxRow } from '../db/models/outbox';
import { choiceNeeded, conflict, forbidden, invalid, stale } from '../http/problems';
import { defineEffect, requestEffect } from '../jobs/effect';
import type { Rejected } from '../outside/post';
import { findActiveActor } from '../session/identify';
import { compose } from './compose';
import { followed } from './followed';
import { handOver, loadFiles, loadOutgoing } from './outgoing';
import { filesOf, letterView, ownLetter, recipientsOf } from './read';
import { requireDraft } from './draft';
import { settleSent } from './sent';

const DAY_MS = 86_400_000;
/** Long enough to see what one has done. */
const TAKE_BACK_MS = 10_000;
const FURTHEST_DAYS = 366;

const Sending = z.object({ letterId: Id });
interface Sent {
  /** Read for the ledger; null where the letter was taken back or is gone. */
  arrival: Arrival | null;
  rejected: Rejected[];
}

/** Sends one letter. What came of it stands on the letter; a try that was cut off is not repeated without being asked for. */
export const letterMail = defineEffect<z.infer<typeof Sending>, Sent>({
  name: 'sendLetter',
  lane: 'mail',
  input: Sending,
  lastsMs: 2 * DAY_MS,
  waits: { first: 10_000, longest: 1_800_000 },
  async send(tools, { letterId }) {
    const outgoing = await loadOutgoing(tools, letterId);
    if (!outgoing) return { arrival: null, rejected: [] };
    const written = { ...outgoing.sealed, files: await loadFiles(tools, outgoing.files) };
    const shown = await followed(tools, outgoing);
    const actor = await findActiveActor(outgoing.author.id);
    // What is kept and stands in the Sent folder has the links as they were written: whoever reads it there is not its reader.
    const arrival = await readMail(tools, actor, await compose(written));
    const raw = await compose({ ...written, ...(shown ? { shown } : {}) });
    return { arrival, rejected: await handOver(tools, outgoing, raw) };
  },
  async settle(context, { letterId }, outcome) {
    const letter = await Letter.findByPk(letterId, { transaction: context.tx, lock: true });
    if (letter?.state !== 'waiting') return 'A letter was taken back before it went out';
    if (outcome.state === 'sent') {
      if (outcome.result.arrival)
        await settleSent(context, letter, outcome.result.arrival, outcome.result.rejected);
      return `Sent “${letter.subject}”`;
    }
    const trouble =
      outcome.state === 'unsure'
        ? `It may have gone out: ${outcome.trouble}. Look into your Sent folder before you send it again.`
        : `It did not go out: ${outcome.trouble}.`;
    await context.write.update(letter, { state: 'failed', trouble, updatedAt: context.now() });
    return `“${letter.subject}” did not go out`;
  },
  async prepareRepeat(context, { letterId }) {
    const letter = await Letter.findByPk(letterId, { transaction: context.tx, lock: true });
    if (!letter || letter.authorId !== requireActor(context).id)
      throw forbidden('Only its writer can send a letter again.');
    if (letter.state !== 'failed') throw conflict('This letter is not waiting to be sent again.');
    const now = context.now();
    await context.write.update(letter, { state: 'waiting', trouble: '', leavesAt: now, updatedAt: now });
  },
});

/** @throws 422 with what a letter lacks */
async function requireWhole(context: Context, letter: Letter): Promise<LetterRecipient[]> {
  const recipients = await recipientsOf(context, letter.id);
  if (!recipients.length)
    throw invalid('Say who it is to first. The draft is kept.', { fields: { recipients: 'is empty' } });
  if (!letter.subject.trim())
    throw invalid('Add a subject first. The draft is kept.', { fields: { subject: 'is empty' } });
  const { gaps } = await letterView(context, letter);
  if (gaps.length)
    throw invalid(`Still to be filled in: ${gaps.join(', ')}. The draft is kept.`, {
      fields: { html: `lacks ${gaps.join(', ')}` },
      reasons: gaps,
    });
  const held = (await filesOf(context, letter.id)).find(
    ({ state }) => state === 'waiting' || state === 'infected',
  );
  if (held)
    throw invalid(
      held.state === 'infected'
        ? `${held.name} holds a harmful program. Remove it first.`
        : `${held.name} is still being scanned. Try again in a moment.`,
      { fields: { files: 'cannot be sent' } },
    );
  return recipients;
}

function timeOf({ now }: Context, at: string | undefined): Date {
  const soon = new Date(now().getTime() + TAKE_BACK_MS);
  if (!at) return soon;
  const wanted = new Date(at);
  if (wanted.getTime() > now().getTime() + FURTHEST_DAYS * DAY_MS)
    throw invalid('A letter can wait for a year at most.', { fields: { at: 'is too far away' } });
  return wanted > soon ? wanted : soon;
}

/**
 * Sends a letter once ten seconds are over, or later. @throws 422 for what it lacks, 409 where something speaks against it
 * and nobody said that it goes anyway
 */
export async function sendLetter(
  context: Context,
  id: string,
  { version, at, anyway }: Parsed<'POST /api/letters/:id/sending', 'body'>,
): Promise<{ eventId: string | null; letter: Awaited<ReturnType<typeof letterView>> }> {
  const actor = requireActor(context);
  const letter = await ownLetter(context, id, true);
  requireDraft(letter);
  if (letter.version !== version)
    throw stale({ version: letter.version, subject: letter.subject, html: letter.html });
  const recipients = await requireWhole(context, letter);
  const { warnings } = await letterView(context, letter);
  if (warnings.length && !anyway)
    throw choiceNeeded('Send it all the same, or take them off first. The draft is kept.', {
      reasons: warnings,
    });
  const hasOwn = (await Submission.count({ where: { userId: actor.id }, transaction: context.tx })) > 0;
  if (!context.outside.post && !hasOwn)
    throw conflict(
      'No mail server is set up. Add your own under Sending mail in Settings. The draft is kept.',
    );
  const leavesAt = timeOf(context, at);
  await context.write.update(letter, { state: 'waiting', trouble: '', leavesAt, updatedAt: context.now() });
  await requestEffect(context, letterMail, { letterId: id }, { table: 'letters', id }, leavesAt);
  const to = recipients.map(({ name, address }) => name || address).join(', ');
  const eventId = await context.write.event(
    'send letter',
    `Letter to ${to.slice(0, 80)}: ${letter.subject.slice(0, 60)}`,
    actor.id,
  );
  return { eventId, letter: await letterView(context, letter) };
}

/** Takes a letter back that has not gone out; it is a draft again. @throws 409 once it goes out */
export async function takeBack(
  context: Context,
  { id }: In<'DELETE /api/letters/:id/sending', 'params'>,
): Promise<{ eventId: string | null; letter: Awaited<ReturnType<typeof letterView>> }> {
  const letter = await ownLetter(context, id, true);
  if (letter.state !== 'waiting') throw conflict('This letter is not waiting to go out.');
  const rows = await OutboxRow.findAll({
    where: { aboutId: id, kind: letterMail.name },
    transaction: context.tx,
    lock: true,
  });
  if (rows.some(({ state }) => state === 'sending'))
    throw conflict('This letter is going out at this moment.');
  for (const row of rows.filter(({ state }) => state === 'waiting')) await context.write.remove(row);
  await context.write.update(letter, { state: 'draft', leavesAt: null, updatedAt: context.now() });
  const eventId = await context.write.event(
    'take letter back',
    `Took back “${letter.subject.slice(0, 60)}”`,
    requireActor(context).id,
  );
  return { eventId, letter: await letterView(context, letter) };
}
