import { bareMessage } from '@emporikon/core/reading/read';
import { DateTime } from 'luxon';
import type { Reading } from '@emporikon/core/reading/types';
import { localNow, type Actor, type Context, type Tools } from '../commands/context';
import { User } from '../db/models/users';
import { invalid, ProblemError } from '../http/problems';
import { hashOf } from '../reading/hashes';
import { readRaw } from '../reading/raw';

/** One raw thing with its reading, ready to be kept. */
export interface Arrival {
  raw: Buffer;
  mediaType: string;
  /** Where a page was. */
  url: string | null;
  reading: Reading;
  /** Of its bytes, with the address of a page before them. */
  sha256: string;
  /** What a message says without how it was carried here, as SHA-256; null for anything else. */
  contentHash: string | null;
}

interface Given {
  mediaType: string;
  url?: string | undefined;
}

function isBlank(raw: Buffer): boolean {
  for (let at = 0; at < raw.length; at++) if ((raw[at] ?? 0) > 32) return false;
  return true;
}

/**
 * Reads what came in, before any transaction and beside the process's own work. A file of several cards is as many.
 * @throws 422 for nothing at all, or for what takes too much work to read
 */
export async function readArrivals(
  tools: Tools,
  actor: Actor | null,
  raw: Buffer,
  { mediaType, url }: Given,
): Promise<Arrival[]> {
  if (isBlank(raw))
    throw invalid('There is nothing in it; nothing was captured. Choose a message or paste its text.');
  const parts = await tools.readers.run('readParts', {
    raw,
    mediaType,
    options: {
      ours: tools.house.ours,
      currency: tools.house.currency,
      country: tools.house.country,
      receivedAt: DateTime.fromJSDate(tools.now(), { zone: actor?.timeZone ?? 'utc' }).toISO() ?? '',
      ...(url ? { url } : {}),
      ...(mediaType === 'text/html'
        ? { ourPeople: (await User.findAll({ attributes: ['name'] })).map((user) => user.name) }
        : {}),
    },
  });
  return parts.map((part) => {
    const bytes = part.raw ? Buffer.from(part.raw) : raw;
    return {
      raw: bytes,
      mediaType,
      url: url ?? null,
      reading: part.reading,
      sha256: part.sha256,
      contentHash: part.contentHash,
    };
  });
}

/** The one arrival of what is never several. */
export async function readArrival(
  tools: Tools,
  actor: Actor | null,
  raw: Buffer,
  given: Given,
): Promise<Arrival> {
  const [arrival] = await readArrivals(tools, actor, raw, given);
  if (!arrival) throw invalid('There is nothing in it; nothing was captured.');
  return arrival;
}

/** A call or a form that this program itself put into words: it is short, and read within the command that makes it. */
export async function readOwnRecord(context: Context, record: object): Promise<Arrival> {
  const raw = Buffer.from(JSON.stringify(record), 'utf8');
  const mediaType = 'application/json';
  const reading = await readRaw(raw, mediaType, {
    ours: context.house.ours,
    currency: context.house.currency,
    country: context.house.country,
    receivedAt: localNow(context),
  });
  return { raw, mediaType, url: null, reading, sha256: hashOf(raw, null), contentHash: null };
}

/**
 * A message that came by post. One that takes too much work to read is kept whole all the same, with a notice and
 * without claims: what was sent to us is never lost.
 */
export async function readMail(tools: Tools, actor: Actor | null, raw: Buffer): Promise<Arrival> {
  try {
    return await readArrival(tools, actor, raw, { mediaType: 'message/rfc822' });
  } catch (error) {
    if (!(error instanceof ProblemError) || error.problem.type !== 'urn:emporikon:problem:too-much')
      throw error;
    const reading: Reading = {
      kind: 'email',
      claims: [],
      intents: [],
      notices: [
        'This message takes far more work to read than a message should. It was kept as it came and not read.',
      ],
      message: bareMessage({ subject: 'A message that could not be read' }),
    };
    const sha256 = Buffer.from(await crypto.subtle.digest('SHA-256', new Uint8Array(raw))).toString('hex');
    return { raw, mediaType: 'message/rfc822', url: null, reading, sha256, contentHash: null };
  }
}
