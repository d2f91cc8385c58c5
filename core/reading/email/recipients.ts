import PostalMime, { type Address } from 'postal-mime';
import type { Mailbox } from '../types';
import { abridge } from './abridge';
import { boundHeaders } from './headers';

/** Whom a message went to, with copies apart, and where its sender asks answers to go. */
export interface MessageRecipients {
  replyTo: Mailbox[];
  to: Mailbox[];
  cc: Mailbox[];
}

const MOST = 100;

const mailboxes = (list: readonly Address[] | undefined): Mailbox[] =>
  (list ?? [])
    .flatMap((one) => (one.group ? one.group : [one]))
    .filter(({ address }) => address?.includes('@'))
    .slice(0, MOST)
    .map(({ name, address = '' }) => ({ name, address }));

/** Reads the addresses in the header of a raw message; groups (RFC 5322, 3.4) are taken apart. Never throws. */
export async function readRecipients(raw: Uint8Array): Promise<MessageRecipients> {
  const header = await PostalMime.parse(abridge(boundHeaders(raw).bytes).bytes, {
    maxNestingDepth: 60,
  } as object).catch(() => null);
  return { replyTo: mailboxes(header?.replyTo), to: mailboxes(header?.to), cc: mailboxes(header?.cc) };
}
