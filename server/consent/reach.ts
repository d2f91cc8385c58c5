import type { Reach } from '@emporikon/core/outreach/consent';
import { normalizeEmail } from '@emporikon/core/people/emails';
import type { Context } from '../commands/context';
import { ContactPoint } from '../db/models/people';

/** Notes whether mail arrives at an address, where somebody has it. */
export async function noteReach(
  context: Context,
  address: string,
  reach: Reach,
  words: string,
): Promise<void> {
  const contact = await ContactPoint.findOne({
    where: { kind: 'email', normalized: normalizeEmail(address) },
    transaction: context.tx,
    lock: true,
  });
  if (!contact || (contact.reach === reach && (reach === 'good' || contact.reachWords === words))) return;
  await context.write.update(contact, { reach, reachAt: context.now(), reachWords: words.slice(0, 300) });
}
