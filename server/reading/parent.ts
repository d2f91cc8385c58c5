import { takeApart } from '@emporikon/core/reading/email/message';
import { readRecipients, type MessageRecipients } from '@emporikon/core/reading/email/recipients';
import type { Mailbox } from '@emporikon/core/reading/types';
import { sanitizeMessage } from './sanitize';

/** A message as far as an answer to it needs to know. */
export interface Parent extends MessageRecipients {
  from: Mailbox | null;
  subject: string;
  sentAt: string | null;
  text: string;
  /** Safe to show; null where it has only plain text. */
  html: string | null;
}

const MOST_HTML = 512 * 1024;
/** Reads who a message went to, with copies apart, and what it says. */
export async function readParent({ raw }: { raw: Uint8Array }): Promise<Parent> {
  const message = await takeApart(raw);
  return {
    from: message.from,
    ...(await readRecipients(raw)),
    subject: message.subject,
    sentAt: message.sentAt,
    text: message.text,
    html: message.body === 'html' && message.html ? sanitizeMessage(message.html.slice(0, MOST_HTML)) : null,
  };
}
