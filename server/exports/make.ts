import type { Query } from '@emporikon/core/query/types';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { keepPieces } from '../db/pieces';
import { ExportRow } from '../db/models/exports';
import { invalid, notFound } from '../http/problems';
import { totalsOf } from '../query/answer';
import { schemaFor } from '../query/views';
import { loadOutgoing, outgoingRows, type Asked } from './rows';
import { WRITERS } from './writers';

const AT_ONCE = 1000;
/** More than these are made in the background. */
const MOST_WHILE_WAITING = 20_000;
const PARTS = { table: 'export_parts', owner: 'export_id' } as const;
/** All is read: there is nowhere to go on from. */
const READ = '';

/** How many records a query shows. */
export async function countOf(context: Context, query: Query): Promise<number> {
  const plain: Query = { kind: query.kind, ...(query.filter ? { filter: query.filter } : {}) };
  const { totals } = await totalsOf(context, await schemaFor(context, plain), plain);
  return totals[0]?.count ?? 0;
}

/** The whole file, for somebody who waits for it. @throws 422 where there is too much in it for that */
export async function makeNow(context: Context, asked: Asked): Promise<Buffer> {
  const outgoing = await loadOutgoing(context, asked);
  if ((await countOf(context, asked.query)) > MOST_WHILE_WAITING)
    throw invalid(
      `These are more than ${MOST_WHILE_WAITING.toLocaleString('en-GB')} records. Ask for the file with POST /api/exports; it is made in the background.`,
    );
  const writer = WRITERS[asked.format];
  const text = [writer.head(context, outgoing)];
  let cursor: string | undefined;
  do {
    const { rows, next } = await outgoingRows(context, outgoing, asked.query, { cursor, limit: AT_ONCE });
    text.push(await writer.rows(context, outgoing, rows, cursor === undefined));
    cursor = next ?? undefined;
  } while (cursor);
  text.push(writer.tail);
  return writer.finish ? writer.finish(text.join('')) : Buffer.from(text.join(''));
}

const keepPart = (context: Context, id: string, position: number, text: string): Promise<unknown> =>
  context.sequelize.query(
    'INSERT INTO export_parts (export_id, position, bytes) VALUES ($id, $position, $bytes)',
    { bind: { id, position, bytes: Buffer.from(text) }, transaction: context.tx },
  );

/** One export while its part is made; null once it is stopped or through. */
const lockRunning = (context: Context, id: string): Promise<ExportRow | null> =>
  ExportRow.findOne({ where: { id, state: 'running' }, lock: true, transaction: context.tx });

const askedOf = ({ query, format, dateField }: ExportRow): Asked => ({
  query,
  format,
  ...(dateField ? { dateField } : {}),
});

/** The next rows, and the place after them, in one transaction: each row is in the file once. @returns whether there are more */
const readOn = (tools: Tools, id: string, actor: Actor): Promise<boolean> =>
  runInTransaction(tools, actor, async (context) => {
    const row = await lockRunning(context, id);
    if (!row || row.cursor === READ) return false;
    const asked = askedOf(row);
    const outgoing = await loadOutgoing(context, asked);
    const writer = WRITERS[row.format];
    const cursor = row.cursor ?? undefined;
    const { rows, next } = await outgoingRows(context, outgoing, row.query, { cursor, limit: AT_ONCE });
    const head = row.parts ? '' : writer.head(context, outgoing);
    const text = head + (await writer.rows(context, outgoing, rows, row.parts === 0));
    await keepPart(context, id, row.parts, text);
    await row.update(
      { cursor: next ?? READ, done: row.done + rows.length, parts: row.parts + 1 },
      { transaction: context.tx },
    );
    return next !== null;
  });

/** One part of a file. @throws 404 where it was deleted meanwhile */
export async function partOf({ sequelize, tx }: Context, id: string, position: number): Promise<Buffer> {
  const [part] = await sequelize.query<{ bytes: Buffer }>(
    'SELECT bytes FROM export_parts WHERE export_id = $id AND position = $position',
    { bind: { id, position }, type: QueryTypes.SELECT, transaction: tx },
  );
  if (!part) throw notFound('This file is there no more.');
  return part.bytes;
}

const end = (tools: Tools, id: string, actor: Actor): Promise<void> =>
  runInTransaction(tools, actor, async (context) => {
    const row = await lockRunning(context, id);
    if (!row) return;
    const writer = WRITERS[row.format];
    const { parts } = row;
    if (writer.finish) {
      const text: Buffer[] = [];
      for (let at = 0; at < parts; at++) text.push(await partOf(context, id, at));
      const file = await writer.finish(Buffer.concat(text).toString() + writer.tail);
      await context.sequelize.query('DELETE FROM export_parts WHERE export_id = $id', {
        bind: { id },
        transaction: context.tx,
      });
      await keepPieces(context, PARTS, id, file);
    } else if (writer.tail) await keepPart(context, id, parts, writer.tail);
    const [told] = await context.sequelize.query<{ size: string; parts: string }>(
      'SELECT coalesce(sum(octet_length(bytes)), 0) AS size, count(*) AS parts FROM export_parts WHERE export_id = $id',
      { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    await row.update(
      {
        state: 'done',
        size: told?.size ?? '0',
        parts: Number(told?.parts ?? 0),
        finishedAt: context.now(),
      },
      { transaction: context.tx },
    );
  });

/** Makes the file of an export, from wherever it is, as whoever asked for it. */
export async function makeExport(tools: Tools, id: string, actor: Actor): Promise<void> {
  while (await readOn(tools, id, actor));
  await end(tools, id, actor);
}
