import { tokenOfSubject } from '@emporikon/core/outreach/listHeaders';
import { asksToStop } from '@emporikon/core/outreach/stopMail';
import type { Arrival } from '../captures/arrivals';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import type { After, Followed } from '../commands/types';
import { Capture } from '../db/models/captures';
import { readerOf, stopByLink } from './choices';
import { currentPurposes, heldBy, keepStatements, personOfAddress } from './statements';

/**
 * Takes a mail that a program wrote for somebody who pressed unsubscribe (RFC 2369, `mailto`). Only a link of ours counts, from
 * whatever address it comes.
 * @returns whether nothing of the message is left for Arrivals
 */
export async function takeUnsubscribing(tools: Tools, { reading }: Arrival): Promise<boolean> {
  const token = reading.kind === 'email' ? tokenOfSubject(reading.message.subject) : null;
  if (!token) return false;
  return runInTransaction(tools, null, async (context) => {
    const reader = await readerOf(context, token);
    if (reader.kind !== 'somebody') return reader.kind === 'gone';
    await stopByLink(context, reader.linked, {
      how: 'one-click',
      words: 'unsubscribe',
      source: 'their mail program',
      address: reading.message.from?.address ?? null,
    });
    return true;
  });
}

/** A message carries whole seconds of its sender's clock. */
const CLOCKS_DIFFER_MS = 10 * 60_000;

const mailsIn = ({ changes }: Followed): string[] =>
  changes.flatMap(({ table, id, before, after }) =>
    table === 'captures' && !before && after?.kind === 'email' ? [id] : [],
  );

async function honour(context: Context, captureId: string): Promise<boolean> {
  const capture = await Capture.findByPk(captureId, {
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
  });
  if (!capture) return false;
  const { side, nature, from, said, subject, sentAt } = capture.message;
  // What a machine sent by itself asks for nothing, and neither do we.
  if (side !== 'theirs' || nature || !from?.address || !asksToStop(said, subject)) return false;
  const personId = await personOfAddress(context, from.address);
  if (!personId) return false;
  const held = await heldBy(context, personId);
  const written = new Date((sentAt ? Date.parse(sentAt) : context.now().getTime()) + CLOCKS_DIFFER_MS);
  // An old message that is read today says nothing of what was agreed since.
  const purposes = (await currentPurposes(context)).filter(
    ({ id }) =>
      !held.some((one) => one.purposeId === id && !one.topicId && one.state === 'agreed' && one.at > written),
  );
  const kept = await keepStatements(
    context,
    personId,
    purposes.map(({ id }) => ({
      ...{ personId, purposeId: id, state: 'withdrawn' as const, how: 'mail' as const },
      words: said.slice(0, 500) || subject,
      source: subject,
      ...{ address: from.address, captureId },
    })),
  );
  return kept.length > 0;
}

async function follow(context: Context, followed: Followed): Promise<void> {
  let isHonoured = false;
  for (const id of mailsIn(followed)) isHonoured = (await honour(context, id)) || isHonoured;
  if (isHonoured)
    await context.write.event('withdraw consent', 'Somebody wrote that they want no more mail', null);
}

/** A message in which somebody asks to be written to no more withdraws them, whether or not it is ever filed. */
export const honourStops: After = {
  name: 'honour requests to stop',
  concerns: (followed) => mailsIn(followed).length > 0,
  follow,
};
