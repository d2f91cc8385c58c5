import { createHmac, timingSafeEqual } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** Whose page a link opens, and what its button for unsubscribing is about; everything where it names no purpose. */
export interface Linked {
  personId: string;
  purposeId: string | null;
  topicId: string | null;
}

/** So much of HMAC-SHA-256 that nobody guesses it, and no more than a line of a mail takes. */
const MAC_BYTES = 16;
const UUID_BYTES = 16;
const MOST_LETTERS = 120;

const bytesOf = (id: string): Buffer => Buffer.from(id.replace(/-/g, ''), 'hex');
const idOf = (bytes: Buffer): string =>
  bytes.toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

/** What a link does; one that does one thing is not good for another. */
type Use = 'page' | 'link' | 'open';

const macOf = (key: string, use: Use, payload: Buffer): Buffer =>
  createHmac('sha256', `${use}\n${key}`).update(payload).digest().subarray(0, MAC_BYTES);

type Reading = Pick<Context, 'sequelize' | 'tx'>;

async function linkKey({ sequelize, tx }: Reading): Promise<string> {
  const [row] = await sequelize.query<{ key: string }>('SELECT key FROM link_key', {
    type: QueryTypes.SELECT,
    transaction: tx,
  });
  if (!row) throw new Error('there is no key for links');
  return row.key;
}

/** Ids as one word of an address, signed. It does not run out. */
export async function signIds(context: Reading, use: Use, ids: readonly string[]): Promise<string> {
  const payload = Buffer.concat([Buffer.from([ids.length]), ...ids.map(bytesOf)]);
  return Buffer.concat([payload, macOf(await linkKey(context), use, payload)]).toString('base64url');
}

/** @returns null for anything that we did not sign for this use */
export async function readIds(context: Reading, use: Use, token: string): Promise<string[] | null> {
  if (token.length > MOST_LETTERS || !/^[\w-]+$/.test(token)) return null;
  const bytes = Buffer.from(token, 'base64url');
  const count = bytes[0] ?? 0;
  if (count < 1 || count > 3 || bytes.length !== 1 + count * UUID_BYTES + MAC_BYTES) return null;
  // Two spellings of the same bytes are not the same link.
  if (bytes.toString('base64url') !== token) return null;
  const payload = bytes.subarray(0, -MAC_BYTES);
  if (!timingSafeEqual(macOf(await linkKey(context), use, payload), bytes.subarray(-MAC_BYTES))) return null;
  return Array.from({ length: count }, (_, at) =>
    idOf(payload.subarray(1 + at * UUID_BYTES, 1 + (at + 1) * UUID_BYTES)),
  );
}

/** What stands in the address of somebody's own page: whoever keeps a letter can still unsubscribe by it. */
export const signLink = (context: Reading, { personId, purposeId, topicId }: Linked): Promise<string> =>
  signIds(context, 'page', [personId, ...(purposeId ? [purposeId, ...(topicId ? [topicId] : [])] : [])]);

/** @returns null for anything that we did not sign */
export async function readLink(context: Reading, token: string): Promise<Linked | null> {
  const ids = await readIds(context, 'page', token);
  if (!ids) return null;
  const [personId = '', purposeId = null, topicId = null] = ids;
  return { personId, purposeId, topicId };
}
