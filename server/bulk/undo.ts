import { judgeUndo } from '@emporikon/core/bulk/judge';
import type { BulkKind } from '@emporikon/core/bulk/types';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { STEERS_MANY, UNDOES_MANY } from '../commands/followers';
import { updateRows, type RowPatch } from '../commands/many';
import { ProjectPerson } from '../db/models/afterDeals';
import type { BulkChangeRow } from '../db/models/bulk';
import { ListMember } from '../db/models/fields';
import { Task } from '../db/models/tasks';
import { withdrawMany } from '../ledger/enterMany';
import { loadRows, STORED, type Row } from './records';
import type { Made } from './run';
import { inLanes, loadBulk, lockBulk, lockLane, ofLane, withSightOf } from './view';

const CHUNK = 1000;

interface Done {
  row: number;
  id: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
  made: Made[] | null;
  entry_id: string;
}

const doneRows = (context: Context, id: string, which = 'true'): Promise<Done[]> =>
  context.sequelize.query<Done>(
    `SELECT row, record_id AS id, before, after, made, entry_id FROM bulk_rows
      WHERE bulk_id = $id AND outcome = 'changed' AND ${which} ORDER BY row DESC LIMIT $limit`,
    { bind: { id, limit: CHUNK }, type: QueryTypes.SELECT, transaction: context.tx },
  );

/** A next move is taken back while nobody has touched it. @returns whether it stays */
async function takeTask(context: Context, id: string): Promise<boolean> {
  const task = await Task.findByPk(id, { transaction: context.tx, lock: true });
  if (!task) return false;
  if (task.version !== 1) return true;
  await context.write.remove(task);
  return false;
}

/** Takes back a row that the change made beside a record, or puts back one that it took away. @returns whether it stays */
async function undoMade(context: Context, { table, id, left }: Made, personId: string): Promise<boolean> {
  if (table === 'tasks') return takeTask(context, id);
  if (left) {
    if (!(await ListMember.findOne({ where: { listId: left, personId }, transaction: context.tx })))
      await context.write.insert(ListMember, { id, listId: left, personId, createdAt: context.now() });
    return false;
  }
  const model = table === 'list_members' ? ListMember : ProjectPerson;
  const row = await (model as typeof ListMember).findByPk(id, { transaction: context.tx });
  if (row) await context.write.remove(row);
  return false;
}

/** Which columns go back: those that still are as the change left them. With the records of which something stays. */
function judgeColumns(
  kind: BulkKind,
  done: readonly Done[],
  rows: ReadonlyMap<string, Row>,
): { kept: Set<string>; patches: RowPatch[] } {
  const { name, told, read } = STORED[kind];
  const kept = new Set<string>();
  const pick = (row: Row, keys: readonly string[]): Record<string, unknown> =>
    Object.fromEntries(keys.map((key) => [key, row[key] ?? null]));
  const patches = done.flatMap(({ id, before, after }) => {
    const row = rows.get(id);
    // It is gone, or whoever takes this back may not see it any more.
    if (!row) kept.add(id);
    if (!row || !before || !after) return [];
    const { patch, isKept } = judgeUndo(row, before, after);
    if (isKept) kept.add(id);
    if (!Object.keys(patch).length) return [];
    return {
      ...{ id, version: row.version, patch },
      before: pick(row, ['ownerId', ...read]),
      told: pick(row, [name, ...told]),
    };
  });
  return { kept, patches };
}

/** Takes one chunk back, newest first, in one transaction. @returns whether there may be more */
async function undoChunk(context: Context, id: string, lane: number): Promise<boolean> {
  await lockLane(context, id, lane);
  const bulk = await loadBulk(context, id);
  if (bulk.state !== 'undoing') return false;
  return withSightOf(context, bulk, () => undoRows(context, bulk, lane));
}

async function undoRows(context: Context, bulk: BulkChangeRow, lane: number): Promise<boolean> {
  const { id } = bulk;
  const done = await doneRows(context, id, ofLane(lane));
  if (!done.length) return false;
  const ids = done.map((one) => one.id);
  const rows = new Map((await loadRows(context, bulk.kind, ids, true)).map((row) => [row.id, row]));
  const { kept, patches } = judgeColumns(bulk.kind, done, rows);
  for (const { id: recordId, made } of done)
    for (const one of [...(made ?? [])].reverse())
      if (rows.has(recordId) && (await undoMade(context, one, recordId))) kept.add(recordId);
  await withdrawMany(
    context,
    done.filter((one) => !kept.has(one.id)).map((one) => one.entry_id),
  );
  const stays = done.filter((one) => kept.has(one.id)).map(({ row }) => row);
  await keepUndone(context, bulk, done, stays);
  for (const change of await updateRows(context, context.tx, STORED[bulk.kind].model, patches, context.now()))
    context.write.note(change);
  await addUp(context, bulk, done.length, stays.length);
  await context.write.event(UNDOES_MANY, `Undid: ${bulk.label}`, context.actor?.id ?? null);
  return true;
}

const keepUndone = (
  context: Context,
  { id }: BulkChangeRow,
  done: readonly Done[],
  stays: readonly number[],
): Promise<unknown> =>
  context.sequelize.query(
    `UPDATE bulk_rows SET outcome = CASE WHEN row = ANY ($kept::int[]) THEN 'kept' ELSE 'undone' END
      WHERE bulk_id = $id::uuid AND row = ANY ($rows::int[])`,
    { bind: { id, kept: [...stays], rows: done.map(({ row }) => row) }, transaction: context.tx },
  );

const addUp = (context: Context, { id }: BulkChangeRow, done: number, kept: number): Promise<unknown> =>
  context.sequelize.query(
    `UPDATE bulk_changes SET done = greatest(0, done - $done), trouble = '',
            counts = counts || jsonb_build_object('kept', coalesce((counts ->> 'kept')::int, 0) + $kept) WHERE id = $id`,
    { bind: { id, done, kept }, transaction: context.tx },
  );

async function finish(context: Context, id: string): Promise<void> {
  await lockBulk(context, id);
  const bulk = await loadBulk(context, id, true);
  const [open] = await doneRows(context, id);
  if (bulk.state !== 'undoing' || open) return;
  await context.write.update(bulk, { state: 'undone', finishedAt: context.now() });
  await context.write.event(STEERS_MANY, `Undone: ${bulk.label}`, context.actor?.id ?? null);
}

/** Takes a change of many records back. Can be cut off and goes on. */
export async function undoBulk(tools: Tools, id: string, actor: Actor): Promise<void> {
  await inLanes((lane) =>
    runInTransaction(tools, actor, (context) =>
      context.write.asConsequence(() => undoChunk(context, id, lane)),
    ),
  );
  await runInTransaction(tools, actor, (context) => finish(context, id));
}
