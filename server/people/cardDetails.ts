import type { CardDetails } from '@emporikon/core/reading/card/details';
import { addressText } from '@emporikon/core/reading/card/read';
import type { Context } from '../commands/context';
import { ContactPoint, type Person } from '../db/models/people';

/** Puts on a person what a card says beside its claims, where nothing stands there yet. */
export async function applyCardDetails(
  context: Context,
  person: Person,
  details: CardDetails,
): Promise<void> {
  const isTheirs = details.addressParts !== null && addressText(details.addressParts) === person.address;
  await context.write.update(person, {
    namePrefix: person.namePrefix || details.prefix,
    department: person.department || details.department,
    ...(isTheirs && !person.addressParts
      ? { addressParts: details.addressParts, addressType: details.addressType }
      : {}),
  });
  const contacts = await ContactPoint.findAll({
    where: { personId: person.id, kind: 'email', type: null },
    transaction: context.tx,
  });
  for (const contact of contacts) {
    const type = details.emailTypes[contact.normalized];
    if (type) await context.write.update(contact, { type });
  }
}
