import { showPhone } from '../people/phones';
import type { CaptureKind, MessageView } from './types';

const LONGEST_SUBJECT = 90;
const LONGEST_TITLE = 200;

/** The first line of a text, cut between words. */
function firstWords(text: string): string {
  const line = text.trim().split('\n')[0] ?? '';
  if (line.length <= LONGEST_SUBJECT) return line;
  const cut = line.slice(0, LONGEST_SUBJECT);
  const space = cut.lastIndexOf(' ');
  const end = space > LONGEST_SUBJECT / 2 ? space : LONGEST_SUBJECT;
  return `${cut.slice(0, end).replace(/[\s,;:]+$/, '')}…`;
}

const UNNAMED: Record<CaptureKind, string> = {
  email: 'somebody',
  text: 'pasted text',
  page: 'a web page',
  call: 'a call',
  form: 'a form',
  card: 'a card',
  row: 'a row',
};
const EMPTY: Record<CaptureKind, string> = {
  ...UNNAMED,
  email: 'no words in it',
  text: 'no words in it',
  call: 'Missed call',
};

type Headed = Pick<MessageView, 'from' | 'to' | 'subject' | 'text' | 'side'>;

/**
 * What a capture is called where it is listed: whom it is from, or to where we wrote it, and what it is about.
 * @param claimedName the name that was read in it, where one was
 */
export function headingOf(
  kind: CaptureKind,
  message: Headed,
  claimedName?: string,
): { from: string; subject: string } {
  const written = message.from?.address ?? '';
  const address = kind === 'call' ? showPhone(written) : written;
  const from =
    message.side === 'ours' && kind === 'email'
      ? `to ${message.to[0]?.name || message.to[0]?.address || 'nobody'}`
      : claimedName || message.from?.name || address || UNNAMED[kind];
  return { from, subject: message.subject || firstWords(message.text) || EMPTY[kind] };
}

/** Marks of answers and forwards as mail programs in several languages write them before a subject. */
const ANSWERED = /^\s*(?:(?:re|fwd?|aw|wg|sv|tr|enc|rv)\s*:\s*)+/i;

/**
 * The title of a lead or deal that a capture begins: what is wanted, where that was read, else what the capture is about.
 * @param wanted null where nothing was read
 */
export const titleOfWork = (wanted: string | null, subject: string): string =>
  wanted ?? (subject.replace(ANSWERED, '').slice(0, LONGEST_TITLE) || 'A message');
