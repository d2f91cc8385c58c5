import { countedPlainly } from '../people/counts';
import { readCardDetails } from './card/details';
import { boundNesting } from './nesting';
import { parseCards } from '../formats/vcard';
import { decodeText } from '../formats/encoding';
import { isZip } from '../formats/sheet';
import { tidy } from '../people/text';
import { readNote } from './call/read';
import { readCardClaims } from './card/read';
import { digestOf } from './digest';
import { readEmail } from './email/read';
import { readPage, type PageOptions } from './page/read';
import { readRow } from './table/rows';
import { readTable } from './table/read';
import { toneOf } from './tone';
import type { CallFacts, Claim, Intent, MessageView, Reading } from './types';

const EPOCH = '1970-01-01T00:00:00+00:00';

/** A message view of something that is no message. */
export const bareMessage = (over: Partial<MessageView>): MessageView => ({
  from: null,
  to: [],
  subject: '',
  sentAt: null,
  messageId: null,
  references: [],
  body: 'plain',
  text: '',
  said: '',
  attachments: [],
  side: 'theirs',
  digest: '',
  tone: null,
  ...over,
});

export interface NoteExtra {
  zone?: string;
  call?: CallFacts;
}

/** Reads the note of a call, or the text the exchange handed over. */
export function readCall(text: string, options: PageOptions & NoteExtra = {}): Reading {
  const at = options.receivedAt ?? EPOCH;
  const { claims, intents } = readNote(text, {
    at,
    ...(options.zone ? { zone: options.zone } : {}),
    ...(options.country ? { country: options.country } : {}),
    ...(options.currency ? { currency: options.currency } : {}),
  });
  const lines = text.split('\n').map((line, index, all) => ({
    text: line,
    start: all.slice(0, index).reduce((sum, one) => sum + one.length + 1, 0),
  }));
  const name = claims.find((claim) => claim.field === 'fullName')?.value ?? '';
  const { call } = options;
  return {
    kind: 'call',
    claims,
    intents,
    message: bareMessage({
      from: name || call ? { name, address: call?.from ?? '' } : null,
      subject: '',
      sentAt: call?.startedAt ?? null,
      text,
      said: tidy(text).slice(0, 600),
      digest: digestOf(lines, intents),
      tone: toneOf(text),
      side: call?.direction === 'out' ? 'ours' : 'theirs',
      ...(call ? { call } : {}),
    }),
    notices: [],
  };
}

/** Reads a vCard file; the claims of each card carry its number where there are several. */
export function readCardFile(bytes: Uint8Array, options: PageOptions = {}): Reading & { records: number } {
  const { cards, unreadable } = parseCards(bytes);
  const { text } = decodeText(bytes);
  let from = 0;
  const claims: Claim[] = cards.flatMap((card, index) => {
    const at = Math.max(0, text.indexOf('BEGIN:VCARD', from));
    from = at + 1;
    // Offsets hold where the file writes the card as we do; where it folds lines they are left out.
    const stands = text.startsWith(card.raw, at);
    return readCardClaims(card, options.country, cards.length > 1 ? index : undefined, at).map((claim) => {
      if (stands) return claim;
      const found = text.indexOf(claim.value, at);
      const elsewhere: Claim = { ...claim };
      delete elsewhere.span;
      if (found >= 0) elsewhere.span = { part: 'text', start: found, end: found + claim.value.length };
      return elsewhere;
    });
  });
  const name = claims.find((claim) => claim.field === 'fullName')?.value ?? '';
  return {
    kind: 'card',
    claims,
    intents: [],
    message: bareMessage({
      from: name ? { name, address: '' } : null,
      subject: cards.length === 1 ? name : countedPlainly(cards.length, 'card'),
      text: text.slice(0, 200_000),
      ...(cards[0] && cards.length === 1 ? { card: readCardDetails(cards[0]) } : {}),
    }),
    notices: unreadable
      ? [`${countedPlainly(unreadable, 'card')} could not be read`]
      : cards.length
        ? []
        : ['there is no card in it'],
    records: cards.length,
  };
}

/** Reads a CSV or XLSX table; the claims of each row carry its number. */
export async function readTableFile(
  bytes: Uint8Array,
  options: PageOptions = {},
): Promise<Reading & { records: number }> {
  const { rows, shape, problems } = await readTable(bytes);
  const body = shape.hasHead ? rows.slice(1) : rows;
  return {
    kind: 'row',
    claims: body.flatMap((row, index) => readRow(row, shape, options.country, index).claims),
    intents: [],
    message: bareMessage({ subject: countedPlainly(body.length, 'row') }),
    notices: problems.map((problem) => `row ${problem.row + 1}: ${problem.text}`),
    records: body.length,
  };
}

/** Whether text that came without saying what it is reads as the note of a call, and not as a letter or a signature. */
function isNote(text: string): boolean {
  if (/^(?:from|to|subject|date|message-id|received|return-path|mime-version):/im.test(text.slice(0, 2000)))
    return false;
  const lines = text.split('\n').filter((line) => line.trim());
  const letter =
    /^\s*(?:hi|hello|dear|hey|good (?:morning|afternoon|evening)|hallo|guten|sehr geehrte|liebe|bonjour|ol[aá]|bom dia|boa tarde|hola|buenos|beste|geachte|ciao|buongiorno|hej)\b/i;
  if (letter.test(lines[0] ?? '') || lines.length > 12) return false;
  const { claims, intents } = readNote(text, { at: EPOCH });
  return (
    intents.length > 0 &&
    claims.some((claim) => claim.field === 'fullName' || claim.field === 'phone') &&
    lines.length <= 4
  );
}

export type FileKind = 'email' | 'page' | 'card' | 'call' | 'table' | 'text';

const BY_EXTENSION: Record<string, FileKind> = {
  eml: 'email',
  html: 'page',
  htm: 'page',
  vcf: 'card',
  txt: 'call',
  csv: 'table',
  tsv: 'table',
  xlsx: 'table',
};

/** What a file is, by its extension, else by its first bytes. */
export function kindOfFile(name: string, bytes: Uint8Array): FileKind {
  const byName = BY_EXTENSION[/\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''];
  if (byName) return byName;
  if (isZip(bytes)) return 'table';
  const start = decodeText(bytes.subarray(0, 2000)).text.trimStart();
  if (/^BEGIN:VCARD/i.test(start)) return 'card';
  return /^<(?:!doctype html|html|head|body)/i.test(start) ? 'page' : 'email';
}

/**
 * Reads any one thing that came in.
 * @param kind what it is; `text` is told by itself to be the note of a call or a message
 * @returns claims and intents with their spans
 */
export async function readThing(
  kind: FileKind,
  bytes: Uint8Array,
  options: PageOptions & NoteExtra = {},
): Promise<Reading & { records?: number }> {
  if (kind === 'page') return readPage(decodeHtml(bytes), options);
  if (kind === 'card') return readCardFile(bytes, options);
  if (kind === 'table') return readTableFile(bytes, options);
  if (kind === 'call') return readCall(decodeText(bytes).text, options);
  if (kind === 'text' && bytes.length < 20_000 && isNote(decodeText(bytes).text))
    return { ...readCall(decodeText(bytes).text, options), kind: 'text' };
  return readEmail(bytes, options);
}

/** A document in the encoding its own `meta` names, else told by its bytes; nested no deeper than can be read. */
export const decodeHtml = (bytes: Uint8Array): string =>
  boundNesting(decodeBytes(bytes.subarray(0, MOST_HTML_BYTES)));

/** What stands behind so much of a page is data for machines. */
const MOST_HTML_BYTES = 8 * 1024 * 1024;

function decodeBytes(bytes: Uint8Array): string {
  const head = new TextDecoder('windows-1252').decode(bytes.subarray(0, 2048));
  const named = /<meta[^>]+charset\s*=\s*["']?([\w-]+)/i.exec(head)?.[1];
  if (named && !/^utf-?8$/i.test(named))
    try {
      return new TextDecoder(named).decode(bytes);
    } catch {
      // A name no browser knows is no name; the bytes tell.
    }
  return decodeText(bytes).text;
}

/** An intent as the command line prints it: `value` is the plain value of its kind. */
export function plainIntent(intent: Intent): Record<string, unknown> {
  const { kind, text, span, confidence } = intent;
  const base = { kind, text, span, confidence };
  switch (intent.kind) {
    case 'date':
      return { ...base, value: intent.value.allDay ? intent.value.at.slice(0, 10) : intent.value.at };
    case 'money':
      return { ...base, value: { minor: intent.value.minor, currency: intent.value.currency } };
    case 'quantity':
      return { ...base, value: intent.value.count, unit: intent.value.of };
    default:
      return { ...base, value: intent.value };
  }
}
