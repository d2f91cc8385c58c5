import { normalizeEmail } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Mailbox } from '../db/models/mailboxes';
import type { Seen } from '../outside/imap';

export interface Party {
  address: string;
  name: string;
}

/** Whether an address is ours: the mailbox's own, or one of our domains. */
const isOurs = (context: Context, mailbox: Mailbox, address: string): boolean =>
  address === mailbox.address.toLowerCase() ||
  context.house.ours.some((our) => address === our || address.endsWith(`@${our}`));

/** Who writes and who is written to in a message, ours left out. */
export function partiesOf(
  context: Context,
  mailbox: Mailbox,
  seen: Seen,
): { sentByUs: boolean; parties: Party[] } {
  const from = seen.from;
  const sentByUs = from !== null && isOurs(context, mailbox, from.address);
  const all = sentByUs ? seen.to : from ? [from] : [];
  const parties = all
    .map((one) => ({ address: normalizeEmail(one.address), name: one.name }))
    .filter((one) => !isOurs(context, mailbox, one.address));
  return {
    sentByUs,
    parties: parties
      .filter((party, at) => parties.findIndex((other) => other.address === party.address) === at)
      .slice(0, 20),
  };
}

/** Whether a person said that mail of this address is never to be filed: the address itself, or `@` and its domain. */
export const isNever = (mailbox: Mailbox, address: string): boolean =>
  (mailbox.never ?? []).some((one) => one === address || (one.startsWith('@') && address.endsWith(one)));

/** The people these addresses belong to, by address. */
export async function peopleBy(context: Context, addresses: readonly string[]): Promise<Map<string, string>> {
  if (!addresses.length) return new Map();
  const rows = await context.sequelize.query<{ normalized: string; person_id: string }>(
    "SELECT normalized, person_id FROM contact_points WHERE kind = 'email' AND normalized = ANY($1::text[])",
    { bind: [addresses], type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map((row) => [row.normalized, row.person_id]));
}
