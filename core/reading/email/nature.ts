import { alternatives } from '../../words/compile';
import type { Mailbox, MailNature } from '../types';

/** Senders that nobody reads answers at (common practice). */
const UNATTENDED =
  /^(?:(?:[a-z0-9]+[._-])?(?:no|do[._-]?not|dont)[._-]?reply|mailer[._-]?daemon|postmaster|bounces?|notifications?|alerts?)(?:[+._-].*)?@/i;

/** Whether an address is one nobody reads answers at. */
export const isUnattended = (address: string): boolean => UNATTENDED.test(address);

/** What programs write over a message that they send by themselves, in the languages we read. */
const AUTOMATIC = new RegExp(
  String.raw`^\s*(?:re:\s*)?(?:${alternatives('autoReplySubject')})\s*(?:[:：,!(–-]|re:|$)|^\s*(?:${alternatives('receiptSubject')})\s*[:：]`,
  'iu',
);
const BOUNCED = new RegExp(String.raw`^\s*(?:${alternatives('bounceSubject')})`, 'iu');
const MAIL_SYSTEM = /^(?:mailer[._-]?daemon|postmaster|mail[._-]?delivery)(?:[+._-].*)?@/i;

/** Whether a mail system says that it could not deliver something: by its form (RFC 6522), or by its sender and subject. */
export const isBounce = ({ header, from, subject }: Pick<Sent, 'header' | 'from' | 'subject'>): boolean =>
  /^multipart\/report/i.test(header('content-type').trim()) ||
  (MAIL_SYSTEM.test(from?.address ?? '') && (BOUNCED.test(subject) || header('x-failed-recipients') !== ''));

interface Sent {
  subject: string;
  /** A header's value by its lower-case name; empty where there is none. */
  header: (name: string) => string;
  from: Mailbox | null;
  replyTo: Mailbox | null;
}

/**
 * What a message is, where no person wrote it to somebody. What a group hands on (RFC 2369 List-Post, RFC 2919 List-Id) was
 * written by a person, and so was what a web form sends for somebody whose address is in Reply-To.
 * @returns `newsletter`: sent to many who can leave (RFC 2369 List-Unsubscribe, RFC 8058, or Precedence: bulk, common
 *   practice); `automatic reply`: RFC 3834 auto-replied, or the older headers of the same meaning; `notice`: a delivery
 *   report (RFC 6522), something generated (RFC 3834), or a sender nobody answers; null: written by a person
 */
export function natureOf({ header, from, replyTo, subject }: Sent): MailNature | null {
  const value = (name: string): string => header(name).trim().toLowerCase();
  if (isBounce({ header, from, subject })) return 'notice';
  const submitted = value('auto-submitted').split(';')[0]?.trim() ?? '';
  const precedence = value('precedence');
  if (
    submitted === 'auto-replied' ||
    precedence === 'auto_reply' ||
    header('x-autoreply') ||
    AUTOMATIC.test(subject)
  )
    return 'automatic reply';
  const isGroup = header('list-post') !== '' && value('list-post') !== 'no';
  const canLeave = header('list-unsubscribe') !== '' || header('list-unsubscribe-post') !== '';
  if (!isGroup && (canLeave || precedence === 'bulk')) return 'newsletter';
  if (submitted && submitted !== 'no') return 'notice';
  const writesFor = replyTo?.address && replyTo.address.toLowerCase() !== from?.address.toLowerCase();
  return !writesFor && from && isUnattended(from.address) ? 'notice' : null;
}
