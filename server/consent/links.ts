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

const macOf = (key: string, payload: Buffer): Buffer =>
  createHmac('sha256', `links\n${key}`).update(payload).digest().subarray(0, MAC_BYTES);

async function linkKey({ sequelize, tx }: Pick<Context, 'sequelize' | 'tx'>): Promise<string> {
  const [row] = await sequelize.query<{ key: string }>('SELECT key FROM link_key', {
    type: QueryTypes.SELECT,
    transaction: tx,
  });
  if (!row) throw new Error('there is no key for links');
  return row.key;
}

/** What stands in the address of somebody's own page. It does not run out: whoever keeps a letter can still unsubscribe by it. */
export async function signLink(
  context: Pick<Context, 'sequelize' | 'tx'>,
  { personId, purposeId, topicId }: Linked,
): Promise<string> {
  const ids = [personId, ...(purposeId ? [purposeId, ...(topicId ? [topicId] : [])] : [])];
  const payload = Buffer.concat([Buffer.from([ids.length]), ...ids.map(bytesOf)]);
  return Buffer.concat([payload, macOf(await linkKey(context), payload)]).toString('base64url');
}

/** @returns null for anything that we did not sign */
export async function readLink(
  context: Pick<Context, 'sequelize' | 'tx'>,
  token: string,
): Promise<Linked | null> {
  if (token.length > MOST_LETTERS || !/^[\w-]+$/.test(token)) return null;
  const bytes = Buffer.from(token, 'base64url');
  const count = bytes[0] ?? 0;
  if (count < 1 || count > 3 || bytes.length !== 1 + count * UUID_BYTES + MAC_BYTES) return null;
  // Two spellings of the same bytes are not the same link.
  if (bytes.toString('base64url') !== token) return null;
  const payload = bytes.subarray(0, -MAC_BYTES);
  if (!timingSafeEqual(macOf(await linkKey(context), payload), bytes.subarray(-MAC_BYTES))) return null;
  const [personId = '', purposeId = null, topicId = null] = Array.from({ length: count }, (_, at) =>
    idOf(payload.subarray(1 + at * UUID_BYTES, 1 + (at + 1) * UUID_BYTES)),
  );
  return { personId, purposeId, topicId };
}
