import { createHash, createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { invalid, type ProblemError } from './problems';

/** Without a secret of the installation a cursor is good in the process that made it. */
let key: Buffer = randomBytes(32);

/** Makes the cursors of every process with this secret good in all of them. */
export function signCursorsWith(secret: string): void {
  key = createHash('sha256').update(`cursors\n${secret}`).digest();
}

const signatureOf = (text: string): Buffer => createHmac('sha256', key).update(text).digest().subarray(0, 12);

/** Cursors are opaque to clients: the sort keys of the last row they saw, signed so that only ours are taken. */
export function encodeCursor(keys: readonly string[]): string {
  const text = Buffer.from(JSON.stringify(keys)).toString('base64url');
  return `${text}.${signatureOf(text).toString('base64url')}`;
}

function isSigned(text: string, signature: string): boolean {
  const [given, wanted] = [Buffer.from(signature, 'base64url'), signatureOf(text)];
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/** For a cursor that was not made here, or not for this list in this order. */
export const notOurCursor = (): ProblemError =>
  invalid('This cursor is not valid; start again without it.', { fields: { cursor: 'is not valid' } });

/** @throws 422 for a cursor that was not made here */
export function decodeCursor(cursor: string | undefined, length: number): string[] {
  if (!cursor) return [];
  const [text = '', signature = ''] = cursor.split('.');
  if (isSigned(text, signature)) {
    const keys = JSON.parse(Buffer.from(text, 'base64url').toString()) as string[];
    if (keys.length === length) return keys;
  }
  throw notOurCursor();
}

/**
 * One page of what was asked for with one row more than it holds.
 * @param keys the sort keys of a row, for the cursor to the next page
 */
export function pageOf<Row, Item>(
  rows: readonly Row[],
  limit: number,
  asItem: (row: Row) => Item,
  keys: (row: Row) => readonly string[],
): { items: Item[]; next: string | null } {
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  return {
    items: page.map(asItem),
    next: rows.length > page.length && last !== undefined ? encodeCursor(keys(last)) : null,
  };
}
