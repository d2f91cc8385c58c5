import { DateTime } from 'luxon';
import PostalMime, { type Attachment, type Email } from 'postal-mime';
import { abridge } from '../reading/email/abridge';
import { natureOf } from '../reading/email/nature';
import { boundHeaders } from '../reading/email/headers';
import { findMoments } from '../reading/intents/when';
import { alternatives } from '../words/compile';
import { deliveryStateOf, type DeliveryState } from './deliveryStatus';

/** What a mail system says of one address. */
export interface AddressReport {
  address: string;
  state: DeliveryState;
  /** RFC 3463 code; empty where none was given. */
  status: string;
  /** In the server's own words, one line. */
  words: string;
}

/** What came back of a letter, by the Message-ID of the letter it is about. */
export type Report =
  | { kind: 'delivery'; about: string[]; addresses: AddressReport[] }
  | { kind: 'complaint'; about: string[]; address: string | null }
  | { kind: 'away'; about: string[]; from: string; until: string | null };

const MOST_ADDRESSES = 200;
const MOST_WORDS = 300;
const MOST_TEXT = 60_000;
const MESSAGE_IDS = /<[^<>\s]{1,998}>/g;

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, MOST_WORDS);
const bareAddress = (text: string): string =>
  text.replace(/^.*?;/, '').replace(/[<>"]/g, '').trim().toLowerCase();
const isAddress = (text: string): boolean => /^[^\s@]{1,64}@[^\s@]{1,255}$/.test(text);

const textOf = ({ content }: Attachment): string =>
  (typeof content === 'string' ? content : new TextDecoder().decode(content)).slice(0, MOST_TEXT);
const partsOf = (email: Email, types: RegExp): string[] =>
  email.attachments.filter(({ mimeType }) => types.test(mimeType)).map(textOf);

/** Groups of `Name: value` lines, blank lines between them (RFC 3464, 2.1); folded lines are joined. */
function fieldGroups(text: string): Map<string, string>[] {
  return text
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]+/g, ' ')
    .split(/\n\s*\n/)
    .map(
      (block) =>
        new Map(
          block.split('\n').flatMap((line) => {
            const [, name, value] = /^([A-Za-z][A-Za-z0-9-]{0,60})\s*:\s*(.*)$/.exec(line) ?? [];
            return name ? [[name.toLowerCase(), (value ?? '').trim()] as const] : [];
          }),
        ),
    )
    .filter((group) => group.size > 0);
}

const recipientOf = (group: Map<string, string>): string =>
  [group.get('original-recipient'), group.get('final-recipient')]
    .map((value) => bareAddress(value ?? ''))
    .find(isAddress) ?? '';

/** The recipients of a delivery report in its machine-readable form (RFC 3464, 2.3). */
function readStatus(text: string): AddressReport[] {
  return fieldGroups(text)
    .slice(0, MOST_ADDRESSES)
    .flatMap((group) => {
      const address = recipientOf(group);
      if (!address) return [];
      const status = /\b[245]\.\d{1,3}\.\d{1,3}\b/.exec(group.get('status') ?? '')?.[0] ?? '';
      const diagnostic = group.get('diagnostic-code') ?? '';
      const words = oneLine(diagnostic.replace(/^\s*[\w-]+\s*;/, ''));
      // The server's own enhanced code says more than the summary of whoever gave up.
      const own = /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(words)?.[0] ?? '';
      const code = /\.0\.0$/.test(status) && own ? own : status || own;
      return [
        { address, status: code, words, state: deliveryStateOf(group.get('action') ?? '', code, words) },
      ];
    });
}

/** Where a copy of the message begins, below a report written for people. */
const COPY_BELOW =
  /^[ \t]*(?:-{2,}[ \t]*)?(?:below this line is a copy|this is a copy of (?:the|your) message|original message (?:follows|below)|the (?:following|original) message)|^-{3,} ?(?:original message|message header)/im;
/** An address on a line of its own, as qmail, Exim and older Sendmail write it. */
const ADDRESS_LINE = /^[ \t]{0,8}<?([^\s<>@:"]{1,64}@[^\s<>@:",;]{1,255}?)>?:?[ \t]*$/;
const MOST_LINES = 400;

/** The recipients of a report that only people can read: each address on a line, its reason in the lines below. */
function readProse(text: string, failed: readonly string[]): AddressReport[] {
  const lines = text
    .slice(0, COPY_BELOW.exec(text)?.index ?? MOST_TEXT)
    .split(/\r?\n/)
    .slice(0, MOST_LINES);
  const found = new Map<string, string[]>(failed.map((address) => [address, []]));
  let current: string[] | null = null;
  let blank = 0;
  for (const line of lines) {
    const address = ADDRESS_LINE.exec(line)?.[1]?.toLowerCase();
    if (address) {
      current = found.get(address) ?? [];
      found.set(address, current);
      blank = 0;
    } else if (!line.trim()) {
      if (++blank > 1) current = null;
    } else current?.push(line.trim());
  }
  const all = oneLine(lines.join(' '));
  return [...found].slice(0, MOST_ADDRESSES).flatMap(([address, reason]) => {
    const words = oneLine(reason.join(' ')) || (found.size === 1 ? all : '');
    const status = /\b[45]\.\d{1,3}\.\d{1,3}\b/.exec(words)?.[0] ?? '';
    const isLater = /\b(?:will (?:be|keep) (?:re)?tr|still trying|delayed|no action is required)\b/i.test(
      all,
    );
    return [
      { address, status, words, state: deliveryStateOf(isLater ? 'delayed' : 'failed', status, words) },
    ];
  });
}

/** Some leave out the angle brackets. */
const OWN_ID = /^message-id:\s*<?([^<>\s]{1,998}@[^<>\s]{1,255})>?/im;

/** The Message-IDs a report names: that of the copy it carries first, then what it answers. */
function aboutOf(email: Email, header: (name: string) => string): string[] {
  const copies = partsOf(
    email,
    /^(?:message\/(?:rfc822|global)|text\/rfc822-headers|message\/global-headers)/i,
  );
  const below = COPY_BELOW.exec(email.text ?? '');
  const named = [...copies, ...(below ? [(email.text ?? '').slice(below.index)] : [])].flatMap((text) => {
    const id = OWN_ID.exec(text.replace(/\r?\n[ \t]+/g, ' '))?.[1];
    return id ? [`<${id}>`] : [];
  });
  const answered = `${header('in-reply-to')} ${header('references')}`.match(MESSAGE_IDS) ?? [];
  return [...new Set([...named, ...answered])].slice(0, 20);
}

const BACK = new RegExp(
  `(?:^|[^\\p{L}])(?:${alternatives('awayUntil')})\\s*:?\\s*(?:\\p{L}{1,12},?\\s+)?$`,
  'u',
);
const FURTHEST_DAYS = 400;
const MOST_READ = 2000;

/** Until when an automatic reply says somebody is away: the day behind "until" or "back on"; ISO day. */
function awayUntil(text: string, sentAt: string): string | null {
  const said = text.slice(0, MOST_READ).replace(/\s+/g, ' ');
  const reference = DateTime.fromISO(sentAt, { setZone: true });
  const lower = said.toLowerCase();
  const days = findMoments(said, { reference: sentAt })
    .filter(({ dated }) => dated)
    .map(({ at, start }) => ({ day: DateTime.fromISO(at, { setZone: true }), start }))
    .filter(({ day }) => day.diff(reference, 'days').days < FURTHEST_DAYS);
  const told = days.filter(({ start }) => BACK.test(lower.slice(Math.max(0, start - 60), start)));
  const found = told.length ? told : days.length === 1 ? [] : days.slice(-1);
  return found.at(-1)?.day.toISODate() ?? null;
}

/**
 * Reads what mail systems and absent people send back: delivery reports (RFC 3464, and those of servers that write them for
 * people only), complaints (RFC 5965), automatic replies (RFC 3834). Never throws.
 * @returns null for any other message
 */
export async function readReport(raw: Uint8Array): Promise<Report | null> {
  const email = await PostalMime.parse(abridge(boundHeaders(raw).bytes).bytes, {
    maxNestingDepth: 20,
    forceRfc822Attachments: true,
  } as object).catch(() => null);
  if (!email) return null;
  const header = (name: string): string => email.headers.find(({ key }) => key === name)?.value ?? '';
  const type = header('content-type');
  const about = aboutOf(email, header);
  const [feedback] = partsOf(email, /^message\/feedback-report$/i).flatMap(fieldGroups);
  if (feedback && /report-type="?feedback-report/i.test(type)) {
    const address = bareAddress(feedback.get('original-rcpt-to') ?? '');
    const isAbuse = /^(?:abuse|fraud|not-spam|virus|other|opt-out)$/i.test(
      feedback.get('feedback-type') ?? '',
    );
    if (!isAbuse || /^not-spam$/i.test(feedback.get('feedback-type') ?? '')) return null;
    return { kind: 'complaint', about, address: isAddress(address) ? address : null };
  }
  const status = partsOf(email, /^message\/(?:global-)?delivery-status$/i).flatMap(readStatus);
  if (status.length) return { kind: 'delivery', about, addresses: status };
  const from = { name: email.from?.name ?? '', address: email.from?.address ?? '' };
  const failed = header('x-failed-recipients')
    .split(/[,\s]+/)
    .map(bareAddress)
    .filter(isAddress);
  const isSystem = /^(?:mailer[._-]?daemon|postmaster|mail[._-]?delivery)(?:[+._-].*)?@/i.test(from.address);
  if (failed.length || isSystem) {
    const addresses = readProse((email.text ?? '').slice(0, MOST_TEXT), failed);
    return addresses.length ? { kind: 'delivery', about, addresses } : null;
  }
  const subject = email.subject ?? '';
  if (natureOf({ header, from, replyTo: null, subject }) !== 'automatic reply' || !from.address) return null;
  const sentAt = DateTime.fromRFC2822(header('date').replace(/\s*\(.*\)\s*$/, ''), { setZone: true });
  const until = sentAt.isValid ? awayUntil(`${subject}. ${email.text ?? ''}`, sentAt.toISO() ?? '') : null;
  return { kind: 'away', about, from: from.address.toLowerCase(), until };
}
