import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pgCopy from 'pg-copy-streams';
import type { Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { clientOf } from '../db/prepared';

type Cell = string | number | boolean | null | undefined | readonly string[] | Record<string, unknown>;

const ESCAPES: Record<string, string> = { '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' };

/** Almost no value has any of these, and a test costs less than two replacements. */
const NEEDS_CARE = /[\0\\\n\r\t]/;

/** A value in the text format of COPY. PostgreSQL keeps no NUL. */
export function copyText(value: Cell): string {
  if (value === null || value === undefined) return '\\N';
  const text = Array.isArray(value)
    ? `{${value.map((one: string) => `"${one.replace(/[\\"]/g, '\\$&')}"`).join(',')}}`
    : typeof value === 'object'
      ? JSON.stringify(value).replace(/\\u0000/g, '')
      : String(value);
  return NEEDS_CARE.test(text)
    ? text.replace(/\0/g, '').replace(/[\\\n\r\t]/g, (char) => ESCAPES[char] ?? char)
    : text;
}

/**
 * Puts many rows into a table at once, in the transaction of the context. Table and columns are fixed names of ours.
 * @param table and its columns, as SQL names
 */
export async function copyRows(
  context: Context,
  table: string,
  columns: readonly string[],
  rows: readonly (readonly Cell[])[],
): Promise<void> {
  if (!rows.length) return;
  const text = rows.map((row) => `${row.map(copyText).join('\t')}\n`);
  // COPY is not for tables that are looked at through policies; the rows were judged through them.
  await pastSight(context, async () => {
    const stream = clientOf(context).query(pgCopy.from(`COPY ${table} (${columns.join(', ')}) FROM STDIN`));
    await pipeline(Readable.from([text.join('')]), stream);
  });
}

let last = 0;
let within = 0;

/** A UUID that sorts by when it was made (RFC 9562 §5.7, version 7), so that a bulk load fills its indexes in order. */
export function orderedId(now: number): string {
  if (now > last) [last, within] = [now, 0];
  else within++;
  if (within > 0xfff) [last, within] = [last + 1, 0];
  const time = last.toString(16).padStart(12, '0');
  // The platform makes random UUIDs from a pool, far faster than asking for bytes each time; its tail is used.
  return `${time.slice(0, 8)}-${time.slice(8)}-7${within.toString(16).padStart(3, '0')}-${randomUUID().slice(19)}`;
}
