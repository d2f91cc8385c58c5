import { createHash } from 'node:crypto';
import type { Reading } from '@emporikon/core/reading/types';

/** What a raw thing is known by: its bytes, and where a page was. */
export const hashOf = (raw: Uint8Array, url: string | null): string =>
  createHash('sha256')
    .update(url ? `${url}\n` : '')
    .update(raw)
    .digest('hex');

/**
 * The same message that reached two colleagues differs in the headers that carried it. What its sender wrote is the body,
 * the subject, the date and the sender.
 */
export function contentHashOf(raw: Buffer, { message }: Reading): string {
  const text = raw.toString('latin1').replace(/\r\n?/g, '\n');
  const end = text.indexOf('\n\n');
  const body = end < 0 ? '' : text.slice(end + 2).trimEnd();
  return createHash('sha256')
    .update(JSON.stringify([message.from?.address.toLowerCase() ?? '', message.subject, message.sentAt]))
    .update(body, 'latin1')
    .digest('hex');
}
