import { DateTime } from 'luxon';
import PostalMime, { addressParser, decodeWords, type Address, type Email } from 'postal-mime';
import { tidy, withoutTurns } from '../../people/text';
import { findEmails } from '../../people/emails';
import { escapeText, picturesIn, textOfHtml, type HtmlText } from '../html';
import type { Mailbox, MailNature } from '../types';
import { boundNesting } from '../nesting';
import { abridge } from './abridge';
import { boundHeaders } from './headers';
import { isBounce, natureOf } from './nature';

/** A message taken apart: headers in the clear, one body chosen to be read and shown. */
export interface Message {
  from: Mailbox | null;
  replyTo: Mailbox | null;
  to: Mailbox[];
  subject: string;
  sentAt: string | null;
  messageId: string | null;
  references: string[];
  organization: string;
  /** What it is, where no person wrote it to somebody. */
  nature: MailNature | null;
  /** Whether it says that something could not be delivered. */
  isBounce: boolean;
  /** Where the mailing list that handed it on takes messages; null where none did (RFC 2369 List-Post). */
  list: string | null;
  /** What its pictures are said to show, for signatures that are nothing but a picture. */
  pictures: string[];
  body: 'plain' | 'html';
  text: string;
  quotes: HtmlText['quotes'];
  html: string | null;
  attachments: { name: string; mediaType: string }[];
  hasHeaders: boolean;
  notices: string[];
}

const MAX_RECIPIENTS = 50;
const MAX_NAME = 320;
const MOST_ATTACHED = 4;
const MAX_TEXT = 512 * 1024;

/** RFC 5322 §3.3 date-time with its own offset, kept: "Mon, 23 Nov 2026 16:40:00 +0100" → "2026-11-23T16:40:00+01:00". */
export function parseDate(value: string): string | null {
  const match =
    /(?:[A-Za-z]{3,9},?\s*)?(\d{1,2})\s+([A-Za-z]{3})[a-z]*\s+(\d{2,4})\s+(\d{1,2}):(\d{2})(?::(\d{2}))?(?:\s*([+-]\d{4}|[A-Z]{1,5}))?/.exec(
      value.replace(/\([^)]*\)/g, ' ').replace(/\s+/g, ' '),
    );
  if (!match) return null;
  const [, day, monthName, yearText, hour, minute, second = '00', zone = '+0000'] = match;
  const month =
    ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'].indexOf(
      (monthName ?? '').toLowerCase(),
    ) + 1;
  let year = Number(yearText);
  if (year < 50) year += 2000;
  else if (year < 1000) year += 1900;
  const zones: Record<string, string> = {
    EST: '-0500',
    EDT: '-0400',
    CST: '-0600',
    CDT: '-0500',
    MST: '-0700',
    MDT: '-0600',
    PST: '-0800',
    PDT: '-0700',
  };
  const offset = /^[+-]/.test(zone) ? zone : (zones[zone] ?? '+0000');
  if (
    !month ||
    Number(day) < 1 ||
    Number(day) > 31 ||
    Number(hour) > 23 ||
    Number(minute) > 59 ||
    Number(second) > 60
  )
    return null;
  if (Math.abs(Number(offset.slice(0, 3))) > 14) return null;
  const pad = (text: string | number | undefined): string => String(text).padStart(2, '0');
  const iso = `${String(year).padStart(4, '0')}-${pad(month)}-${pad(day)}T${pad(hour)}:${minute}:${second === '60' ? '59' : second}${offset.slice(0, 3)}:${offset.slice(3)}`;
  return Number.isNaN(Date.parse(iso)) ? null : iso;
}

function mailbox(address: Address | undefined): Mailbox | null {
  if (!address) return null;
  const one = address.group ? address.group[0] : address;
  return one && (one.address || one.name)
    ? {
        name: tidy((one.name ?? '').slice(0, MAX_NAME)),
        address: (one.address ?? '').slice(0, MAX_NAME).trim(),
      }
    : null;
}

/** Parses one written mailbox such as `"Duarte, Ines" <ines@padariasol.example>`. */
export function parseMailbox(written: string): Mailbox | null {
  const cleaned = written
    .slice(0, MAX_NAME * 2)
    .replace(/\[mailto:([^\]\s]+)\]/gi, '<$1>')
    .replace(/<mailto:/gi, '<')
    .replace(/\*/g, '')
    .trim();
  const angled = /^(.*?)\s*[<(]([^<>()\s]+@[^<>()\s]+)[>)]/.exec(cleaned);
  if (angled) return { name: tidy((angled[1] ?? '').replace(/^["']|["']$/g, '')), address: angled[2] ?? '' };
  const [first] = addressParser(cleaned.slice(0, 300), { flatten: true });
  if (first?.address?.includes('@')) return { name: tidy(first.name), address: first.address };
  const name = tidy(cleaned.replace(/["<>]/g, ''));
  return name ? { name, address: '' } : null;
}

/** The author; where a comma was not quoted (`Broek, Jasper ten <…>`) the header is read as the one mailbox it means. */
function readFrom(parsed: Address | undefined, header: string): Mailbox | null {
  const author = mailbox(parsed);
  if (author?.address || !header) return author;
  return parseMailbox(decodeWords(header)) ?? author;
}

const hasMailHeaders = (email: Email): boolean =>
  email.headers.some((header) =>
    ['from', 'to', 'date', 'subject', 'message-id', 'received'].includes(header.key),
  );

const NOTHING: Email = { headers: [], headerLines: [], attachments: [] };

async function parse(bytes: Uint8Array): Promise<Email | null> {
  try {
    return await PostalMime.parse(bytes, {
      maxNestingDepth: 60,
      forceRfc822Attachments: true,
    } as object);
  } catch {
    return null;
  }
}

/** Bytes of unknown encoding as text, for what is not a message at all. */
function decode(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < Math.min(bytes.length, MAX_TEXT); at += 8192)
    text += String.fromCharCode(...bytes.subarray(at, Math.min(at + 8192, bytes.length)));
  try {
    return decodeURIComponent(escapeBytes(text));
  } catch {
    return text;
  }
}

/** Messages handed on as attachments, written out below the words that hand them on. */
async function writtenOut(email: Email, depth: number): Promise<string> {
  if (depth >= MOST_ATTACHED) return '';
  const messages = email.attachments
    .filter((attachment) => attachment.mimeType === 'message/rfc822')
    .slice(0, MOST_ATTACHED);
  const texts: string[] = [];
  for (const { content } of messages) {
    if (typeof content === 'string') continue;
    const { from, sentAt, subject, to, text, hasHeaders } = await takeApart(
      new Uint8Array(content),
      depth + 1,
    );
    if (!hasHeaders) continue;
    const write = (one: Mailbox): string => (one.name ? `${one.name} <${one.address}>` : one.address);
    texts.push(
      [
        '',
        '---------- Forwarded message ----------',
        `From: ${from ? write(from) : ''}`,
        `Date: ${sentAt ? DateTime.fromISO(sentAt, { setZone: true }).toRFC2822() : ''}`,
        `Subject: ${subject}`,
        `To: ${to.slice(0, 5).map(write).join(', ')}`,
        '',
        text,
      ].join('\n'),
    );
  }
  return texts.join('\n');
}

/** The address of the list that handed a message on. */
function listOf(header: (key: string) => string): string | null {
  const post = /<mailto:([^>?\s]+)/i.exec(header('list-post'))?.[1];
  if (post) return post.toLowerCase();
  return header('list-id') ? (findEmails(header('to'))[0]?.value.toLowerCase() ?? '') : null;
}

const escapeBytes = (text: string): string =>
  text.replace(/[%\u0080-\u00ff]/g, (char) => `%${char.charCodeAt(0).toString(16).padStart(2, '0')}`);

/**
 * Takes a raw message apart. Never throws: what is damaged is read as far as it goes and said in `notices`.
 * @param raw the message as it came, any encoding
 * @param depth how many messages it is attached within
 */
export async function takeApart(raw: Uint8Array, depth = 0): Promise<Message> {
  const notices: string[] = [];
  const headers = boundHeaders(raw);
  const { bytes, shortened } = abridge(headers.bytes);
  if (headers.shortened) notices.push('very long header fields were read only at their beginning');
  if (shortened) notices.push('very long parts were read only at their beginning and end');
  const parsed = await parse(bytes);
  if (!parsed)
    notices.push('the parts of this message are damaged or nested too deeply; its plain text was read');
  const email = parsed ?? NOTHING;
  const hasHeaders = parsed ? hasMailHeaders(parsed) : false;
  const header = (key: string): string => email.headers.find((header) => header.key === key)?.value ?? '';
  const attached = await writtenOut(email, depth);
  const html = email.html
    ? boundNesting(email.html.slice(0, MAX_TEXT * 2)) + (attached && `<pre>${escapeText(attached)}</pre>`)
    : null;
  const fromHtml = html ? textOfHtml(html) : { text: '', quotes: [] };
  const plain = hasHeaders ? (email.text ?? '') + attached : decode(bytes);
  const usePlain =
    plain.trim().length > 0 && (!html || plain.trim().length * 2 >= fromHtml.text.trim().length);
  const body = usePlain || !html ? 'plain' : 'html';
  const recipients = [...(email.to ?? []), ...(email.cc ?? [])].slice(0, MAX_RECIPIENTS);
  if ((email.to?.length ?? 0) + (email.cc?.length ?? 0) > MAX_RECIPIENTS)
    notices.push(`sent to more than ${MAX_RECIPIENTS} recipients; the first ${MAX_RECIPIENTS} were kept`);
  const text = withoutTurns(body === 'plain' ? plain : fromHtml.text)
    .replace(/\r\n?/g, '\n')
    .replace(/\0/g, '\ufffd');
  const from = readFrom(email.from, header('from'));
  const replyTo = mailbox(email.replyTo?.[0]);
  const subject = tidy(email.subject ?? '').slice(0, 998);
  return {
    from,
    replyTo,
    nature: natureOf({ header, from, replyTo, subject }),
    isBounce: isBounce({ header, from, subject }),
    list: listOf(header),
    pictures: body === 'html' && html ? picturesIn(html) : [],
    to: recipients.map(mailbox).filter((one): one is Mailbox => one !== null),
    subject,
    sentAt: parseDate(header('date')),
    messageId: email.messageId?.slice(0, 998) ?? null,
    references:
      `${email.references ?? ''} ${email.inReplyTo ?? ''}`.match(/<[^<>\s]{1,998}>/g)?.slice(-50) ?? [],
    organization: tidy(decodeWords(header('organization'))).slice(0, 200),
    body,
    text: text.length > MAX_TEXT ? text.slice(0, MAX_TEXT) : text,
    quotes: body === 'html' ? fromHtml.quotes : [],
    html: body === 'html' ? html : null,
    attachments: email.attachments.slice(0, 100).map((attachment) => ({
      name: tidy(attachment.filename ?? '') || 'unnamed',
      mediaType: attachment.mimeType,
    })),
    hasHeaders,
    notices,
  };
}
