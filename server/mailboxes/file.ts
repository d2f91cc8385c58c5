import type { Context } from '../commands/context';
import type { Arrival } from '../captures/arrivals';
import { linkEntry } from '../ledger/write';
import { fileCapture } from '../captures/filing';
import { storeCapture } from '../captures/store';
import { LedgerEntry } from '../db/models/ledger';
import { Person } from '../db/models/people';

/**
 * Puts one message into the ledger of the people it is with. A message that is there already, because a colleague has it
 * too or it came by post, is linked to them and not doubled.
 */
export async function fileMessage(
  context: Context,
  arrival: Arrival,
  at: Date,
  personIds: readonly string[],
): Promise<void> {
  const [first, ...others] = personIds;
  if (!first) return;
  const { capture } = await storeCapture(context, arrival, { by: 'mailbox', at });
  if (capture.state === 'waiting')
    await fileCapture(context, capture.id, { person: first, onlyOpenWork: true });
  const entry = await LedgerEntry.findOne({ where: { captureId: capture.id }, transaction: context.tx });
  if (!entry) return;
  for (const personId of [first, ...others]) {
    const person = await Person.findByPk(personId, { transaction: context.tx });
    await linkEntry(context, entry.id, { personId, companyId: person?.companyId ?? null });
  }
  await context.write.event('file mail', 'Filed a message of a mailbox', context.actor?.id ?? null);
}
