import type { Mailbox } from '../reading/types';

/** Whom a message came from and went to, as its header says. */
export interface Envelope {
  from: Mailbox | null;
  replyTo: readonly Mailbox[];
  to: readonly Mailbox[];
  cc: readonly Mailbox[];
}

const ANSWERED = /^\s*(?:(?:re|aw|sv|vs|rif|odp|antw)(?:\[\d{1,3}\])?\s*[:：]\s*)+/i;
const FORWARDED = /^\s*(?:(?:fwd?|wg|tr|enc|rv|doorst|vb|vl)\s*[:：]\s*)+/i;

/** "Bikes" → "Re: Bikes"; one that says so already keeps it once (RFC 5322, 3.6.5). */
export const replySubject = (subject: string): string => `Re: ${subject.replace(ANSWERED, '').trim()}`;
export const forwardSubject = (subject: string): string => `Fwd: ${subject.replace(FORWARDED, '').trim()}`;

/** An address written as it is compared. */
const key = ({ address }: Mailbox): string => address.trim().toLowerCase();

export interface Recipients {
  to: Mailbox[];
  cc: Mailbox[];
}

/**
 * Who gets a reply: where its sender asks replies to go, else the sender (RFC 5322, 3.6.2 and 3.6.3). A reply to a message of our own goes
 * to whom that went.
 * @param isOurs whether an address is of whoever replies; nobody writes to themselves
 * @param all also everybody else it was sent to
 */
export function replyRecipients(
  { from, replyTo, to, cc }: Envelope,
  isOurs: (address: string) => boolean,
  all: boolean,
): Recipients {
  const isOwn = from !== null && isOurs(key(from));
  const first = isOwn ? [...to] : replyTo.length ? [...replyTo] : from ? [from] : [];
  const others = all ? (isOwn ? [...cc] : [...to, ...cc]) : [];
  const seen = new Set<string>();
  const fresh = (mailbox: Mailbox): boolean => {
    const address = key(mailbox);
    if (!address || isOurs(address) || seen.has(address)) return false;
    seen.add(address);
    return true;
  };
  return { to: first.filter(fresh), cc: others.filter(fresh) };
}

const MOST_REFERENCES = 50;

/**
 * The header by which a reply finds its thread (RFC 5322, 3.6.4): what the parent refers to, then the parent. Of very many the first
 * and the last ones are kept.
 */
export function threadHeaders(
  messageId: string | null,
  references: readonly string[],
): { inReplyTo: string | null; references: string[] } {
  const chain = [...references.filter((one) => one !== messageId), ...(messageId ? [messageId] : [])];
  const [first] = chain;
  return {
    inReplyTo: messageId,
    references:
      first && chain.length > MOST_REFERENCES ? [first, ...chain.slice(1 - MOST_REFERENCES)] : chain,
  };
}
