import { boundHeaders } from '@emporikon/core/reading/email/headers';
import { abridge } from '@emporikon/core/reading/email/abridge';
import { takeApart } from '@emporikon/core/reading/email/message';
import type { Mailbox } from '@emporikon/core/reading/types';
import PostalMime, { type Address } from 'postal-mime';
import { sanitizeMessage } from './sanitize';

/** A message as far as an answer to it needs to know. */
export interface Parent {
  from: Mailbox | null;
  replyTo: Mailbox[];
  to: Mailbox[];
  cc: Mailbox[];
  subject: string;
  sentAt: string | null;
  text: string;
  /** Safe to show; null where it has only plain text. */
  html: string | null;
}

const MOST_HTML = 512 * 1024;
const MOST_ADDRESSES = 100;

const mailboxes = (list: readonly Address[] | undefined): Mailbox[] =>
  (list ?? [])
    .flatMap((one) => (one.group ? one.group : [one]))
    .filter(({ address }) => address?.includes('@'))
    .slice(0, MOST_ADDRESSES)
    .map(({ name, address = '' }) => ({ name, address }));

/** Reads who a message went to, with copies apart, and what it says. */
export async function readParent({ raw }: { raw: Uint8Array }): Promise<Parent> {
  const message = await takeApart(raw);
  const header = await PostalMime.parse(abridge(boundHeaders(raw).bytes).bytes, {
    maxNestingDepth: 60,
  } as object).catch(() => null);
  return {
    from: message.from,
    replyTo: mailboxes(header?.replyTo),
    to: mailboxes(header?.to),
    cc: mailboxes(header?.cc),
    subject: message.subject,
    sentAt: message.sentAt,
    text: message.text,
    html: message.body === 'html' && message.html ? sanitizeMessage(message.html.slice(0, MOST_HTML)) : null,
  };
}
