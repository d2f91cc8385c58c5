import { attachmentsOf, type Attachment } from '@emporikon/core/reading/email/attachments';
import { countSeparateLines } from '@emporikon/core/reading/email/lines';
import { htmlOf } from '@emporikon/core/reading/email/read';
import { markHtml, type HtmlMark } from '@emporikon/core/reading/html';
import { readReport, type Report } from '@emporikon/core/outreach/report';
import { decodeHtml } from '@emporikon/core/reading/read';
import type { PageOptions } from '@emporikon/core/reading/page/read';
import type { Reading } from '@emporikon/core/reading/types';
import { tooMuch } from '../http/problems';
import { readFileWords } from './fileWords';
import { readBench, type BenchReading, type BenchOptions } from './bench';
import { contentHashOf, hashOf } from './hashes';
import { readParent } from './parent';
import { readRaw, splitCards } from './raw';
import { sanitizeMessage } from './sanitize';

/** As much of a document as anybody reads on a screen. */
const MOST_SHOWN = 1024 * 1024;
/** A text of some 2,500 pages; more of them take the parser hundreds of megabytes. */
const MOST_LINES = 120_000;

/** @throws 422 `too-much` for a message of very many lines */
function wholeAttachmentsOf(raw: Uint8Array): Promise<Attachment[]> {
  if (countSeparateLines(raw) > MOST_LINES)
    throw tooMuch(
      'The text of this message has too many lines for its attachments to be taken out. The message is kept whole: download the original.',
    );
  return attachmentsOf(raw);
}

export interface Part {
  /** Null where the part is the whole: then it is not copied back. */
  raw: Uint8Array | null;
  reading: Reading;
  sha256: string;
  contentHash: string | null;
}

/**
 * What is done with a file that somebody else made, each in a thread with a limit on memory and time. Input and output
 * are plain data, because they are copied from one thread to the other.
 */
export const tasks = {
  /** One raw thing, or each card of a file of several. */
  async readParts(input: { raw: Uint8Array; mediaType: string; options: PageOptions }): Promise<Part[]> {
    const raw = Buffer.from(input.raw.buffer, input.raw.byteOffset, input.raw.byteLength);
    const parts: Part[] = [];
    for (const part of splitCards(raw, input.mediaType)) {
      const reading = await readRaw(part, input.mediaType, input.options);
      parts.push({
        raw: part === raw ? null : part,
        reading,
        sha256: hashOf(part, input.options.url ?? null),
        contentHash: reading.kind === 'email' ? contentHashOf(part, reading) : null,
      });
    }
    return parts;
  },
  /** A message or page as it is shown: sanitised, with the spans that were read marked; null for a plain one. */
  async showHtml(input: {
    kind: 'page' | 'email';
    raw: Uint8Array;
    marks: HtmlMark[];
  }): Promise<string | null> {
    const html = input.kind === 'page' ? decodeHtml(input.raw) : await htmlOf(input.raw);
    return html ? sanitizeMessage(markHtml(html.slice(0, MOST_SHOWN), input.marks)) : null;
  },
  /** One attachment of a message; null where there is none at this position. */
  async readAttachment(input: { raw: Uint8Array; position: number }): Promise<Attachment | null> {
    return (await wholeAttachmentsOf(input.raw))[input.position] ?? null;
  },
  /** All attachments of a message, whole. */
  async readAttachments(input: { raw: Uint8Array }): Promise<Attachment[]> {
    return wholeAttachmentsOf(input.raw);
  },
  /** What an answer to a message needs to know of it. */
  readParent,
  /** What mail systems and absent people send back. */
  readReport: (input: { raw: Uint8Array }): Promise<Report | null> => readReport(input.raw),
  /** What a text or PDF says. */
  readFileWords: (input: {
    raw: Uint8Array;
    preview: string | null;
  }): Promise<{ words: string; folded: string }> => readFileWords(input),
  /** The columns of a table, or the number of cards, and nothing of the rows themselves. */
  readBench: (input: BenchOptions): Promise<BenchReading> => readBench(input),
};

export type Tasks = typeof tasks;
