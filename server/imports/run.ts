import { QueryTypes } from 'sequelize';
import { perform, type Context, type Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import { judgeRows } from './preview';
import type { RowData } from './source';
import { choicesOf, loadImport, lockImport } from './view';
import { writeRows, type ReadyRow } from './write';

const CHUNK = 2000;

interface Stored {
  row: number;
  verdict: 'new' | 'same' | 'maybe' | 'unusable';
  person_id: string | null;
  data: RowData;
  reason: string;
}

/** Rows of one chunk by what is to be done with them; judged anew, because the records go on changing. */
async function sort(context: Context, one: Import, rows: readonly Stored[]): Promise<ReadyRow[]> {
  const choices = choicesOf(one);
  const usable = rows.filter((row) => row.verdict !== 'unusable');
  const judged = await judgeRows(
    context,
    usable.map((row) => ({ row: row.row, data: row.data, key: null, reason: '', cells: [] })),
  );
  const now = new Map(usable.map((row, at) => [row.row, judged[at]]));
  return rows.map((row): ReadyRow => {
    const verdict = now.get(row.row);
    if (row.verdict === 'unusable' || !verdict)
      return { row: row.row, data: row.data, act: 'reject', personId: null };
    if (verdict.verdict === 'same')
      return {
        row: row.row,
        data: row.data,
        act: choices.known === 'skip' ? 'leave' : 'change',
        personId: verdict.personId,
      };
    if (verdict.verdict === 'maybe' && choices.maybe === 'skip')
      return { row: row.row, data: row.data, act: 'reject', personId: null };
    return { row: row.row, data: row.data, act: 'make', personId: null };
  });
}

/** Writes one chunk and notes what became of each row, all in one transaction. @returns whether there is more to do */
async function runChunk(tools: Tools, id: string): Promise<boolean> {
  return perform(tools, null, async (context) => {
    await context.sequelize.query('SET LOCAL synchronous_commit = off', { transaction: context.tx });
    await lockImport(context, id);
    const one = await loadImport(context, id, true);
    if (one.state !== 'running') return false;
    const rows = await context.sequelize.query<Stored>(
      'SELECT row, verdict, person_id, data, reason FROM import_rows WHERE import_id = :id AND outcome IS NULL ORDER BY row LIMIT :limit',
      { replacements: { id, limit: CHUNK }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    if (!rows.length) {
      await finish(context, one);
      return false;
    }
    await writeRows(context, one, await sort(context, one, rows));
    await context.sequelize.query('UPDATE imports SET done = done + :count WHERE id = :id', {
      replacements: { id, count: rows.length },
      transaction: context.tx,
    });
    return true;
  });
}

async function outcomes(context: Context, id: string): Promise<Record<string, number>> {
  const rows = await context.sequelize.query<{ outcome: string; n: number }>(
    'SELECT outcome, count(*)::int AS n FROM import_rows WHERE import_id = :id AND outcome IS NOT NULL GROUP BY 1',
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return Object.fromEntries(rows.map((row) => [row.outcome, row.n]));
}

async function finish(context: Context, one: Import): Promise<void> {
  await context.write.update(one, {
    state: 'done',
    counts: { ...one.counts, ...(await outcomes(context, one.id)) },
    finishedAt: context.now(),
  });
  await context.write.event('import', `Imported ${one.name}`, one.createdBy);
}

/**
 * Runs an import to its end, or to where it is paused. Killed at any moment it has done whole chunks only, and the next
 * run goes on with the first row that has no outcome.
 */
export async function runImport(tools: Tools, id: string): Promise<void> {
  while (await runChunk(tools, id));
}
