import type { Readable } from 'node:stream';
import { setImmediate as nextTurn } from 'node:timers/promises';
import { errorCodes } from 'fastify';
import { invalid } from './problems';

/** From this size on a body lies in memory that a reading thread shares, because copying it would keep everybody waiting. */
const SHARED_FROM_BYTES = 8 * 1024 * 1024;

/**
 * Memory that a thread can read without a copy. V8 does not count shared memory towards the next collection, so that dead
 * files of many megabytes would pile up; an ordinary buffer of the same size is counted, and costs nothing unwritten.
 */
export function allocateShared(size: number): Buffer {
  void new ArrayBuffer(size);
  return Buffer.from(new SharedArrayBuffer(size));
}

const allocate = (size: number): Buffer =>
  size < SHARED_FROM_BYTES ? Buffer.alloc(size) : allocateShared(size);

/** A body whose size is told: each piece goes to its place as it comes. */
async function collectTold(payload: AsyncIterable<Buffer>, size: number): Promise<Buffer> {
  const body = allocate(size);
  let at = 0;
  for await (const piece of payload) {
    if (at + piece.length > size) throw new errorCodes.FST_ERR_CTP_INVALID_CONTENT_LENGTH();
    at += piece.copy(body, at);
  }
  if (at !== size) throw new errorCodes.FST_ERR_CTP_INVALID_CONTENT_LENGTH();
  return body;
}

/** A body of unknown size: its pieces are put together a few at a time, with others served in between. */
async function collectUntold(payload: AsyncIterable<Buffer>, limit: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of payload) {
    size += piece.length;
    if (size > limit) throw new errorCodes.FST_ERR_CTP_BODY_TOO_LARGE();
    pieces.push(piece);
  }
  const body = allocate(size);
  let at = 0;
  for (const [index, piece] of pieces.entries()) {
    at += piece.copy(body, at);
    if (index % 64 === 63) await nextTurn();
  }
  return body;
}

/**
 * Collects a body as bytes without ever copying the whole of it at once.
 * @param told what the request says of its size, bytes; undefined when it says nothing
 * @param limit the most that is taken, bytes
 * @throws 413 for more than `limit`, 400 for another size than was told, 422 when it breaks off
 */
export async function collectBody(
  payload: Readable,
  told: string | undefined,
  limit: number,
): Promise<Buffer> {
  const size = told === undefined ? null : Number(told);
  if (size !== null && size > limit) throw new errorCodes.FST_ERR_CTP_BODY_TOO_LARGE();
  try {
    return await (size === null ? collectUntold(payload, limit) : collectTold(payload, size));
  } catch (error) {
    if (error instanceof Error && 'code' in error && String(error.code).startsWith('FST_')) throw error;
    throw invalid('The connection broke off before all of it had come; nothing was kept.');
  }
}
