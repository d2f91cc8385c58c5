import type { RecordData, TableTarget } from '@emporikon/core/reading/table/records';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import type { Import } from '../db/models/imports';
import { undo } from '../events/undo';
import { ProblemError } from '../http/problems';
import { copyRows } from './copy';
import { findActorById } from '../session/identify';
import { judgeRecord, recordRows, writeRecord, type RecordRow } from './records';
import { choicesOf, loadImport, lockImport } from './view';

const CHUNK = 200;

/** What the rows of an import are, where they are not people. */
export const recordTarget = (one: Pick<Import, 'mapping'>): 'companies' | 'deals' | null => {
  const target: TableTarget = one.mapping?.target ?? 'people';
  return target === 'people' ? null : target;
};

/** Judges one chunk of rows and writes them down as the preview shows them. @returns how many there are of each verdict */
export async function previewRecords(
  context: Context,
  id: string,
  target: 'companies' | 'deals',
  chunk: readonly RecordRow[],
): Promise<Record<string, number>> {
  const counts: Record<string, number> = {};
  const lines: Parameters<typeof copyRows>[3][number][] = [];
  for (const { row, data, cells, problems } of chunk) {
    const { verdict, reason } = await judgeRecord(context, target, data);
    const leftOut = verdict !== 'unusable' && problems.length > 0;
    counts[verdict] = (counts[verdict] ?? 0) + 1;
    if (leftOut) counts['left out'] = (counts['left out'] ?? 0) + 1;
    const why = reason || (leftOut ? `left out: ${problems.join('; ')}` : '');
    lines.push([id, row, verdict, { ...data, cells: cells.slice(0, 40) }, why]);
  }
  await copyRows(context, 'import_rows', ['import_id', 'row', 'verdict', 'data', 'reason'], lines);
  return counts;
}

export const recordsOf = (tools: Tools, one: Import, raw: Buffer): AsyncGenerator<RecordRow> =>
  recordRows(raw, one.mapping ?? { columns: [], hasHead: true, dates: null, country: null }, tools.house);

interface Stored {
  row: number;
  data: RecordData;
}

/**
 * Writes the rows of an import of companies or deals, a chunk a transaction with an event of its own, by which it is
 * taken back. Killed at any moment it has done whole chunks only and goes on after them.
 */
export async function runRecords(tools: Tools, one: Import, target: 'companies' | 'deals'): Promise<void> {
  const actor = await findActorById(one.createdBy);
  const step = (): Promise<boolean> =>
    runInTransaction(tools, actor, async (context) => {
      await lockImport(context, one.id);
      const now = await loadImport(context, one.id);
      if (now.state !== 'running') return false;
      const rows = await context.sequelize.query<Stored>(
        'SELECT row, data FROM import_rows WHERE import_id = $id AND outcome IS NULL ORDER BY row LIMIT $limit',
        { bind: { id: one.id, limit: CHUNK }, type: QueryTypes.SELECT, transaction: context.tx },
      );
      if (!rows.length) return false;
      const outcomes = [];
      for (const { row, data } of rows)
        outcomes.push({ row, outcome: await writeRecord(context, target, data, choicesOf(now)) });
      const eventId = await context.write.event(
        `import ${target}`,
        `Imported ${now.name}`,
        actor?.id ?? null,
      );
      await context.sequelize.query(
        `UPDATE import_rows i SET outcome = r.outcome, before = jsonb_build_object('eventId', $event::text)
           FROM jsonb_to_recordset($rows::jsonb) AS r(row integer, outcome text) WHERE i.import_id = $id AND i.row = r.row`,
        { bind: { id: one.id, rows: JSON.stringify(outcomes), event: eventId }, transaction: context.tx },
      );
      await context.sequelize.query('UPDATE imports SET done = done + $count WHERE id = $id', {
        bind: { id: one.id, count: rows.length },
        transaction: context.tx,
      });
      return true;
    });
  while (await step());
}

/** Takes an import of companies or deals back, chunk by chunk, newest first. A chunk that was built on stays as a whole. */
export async function undoRecords(tools: Tools, one: Import): Promise<void> {
  const actor = await findActorById(one.createdBy);
  const events = await runInTransaction(tools, null, (context) =>
    context.sequelize.query<{ id: string }>(
      `SELECT before->>'eventId' AS id FROM import_rows WHERE import_id = $id AND before->>'eventId' IS NOT NULL
      GROUP BY 1 ORDER BY max(row) DESC`,
      { bind: { id: one.id }, type: QueryTypes.SELECT, transaction: context.tx },
    ),
  );
  let kept = 0;
  for (const { id: eventId } of events) {
    const isKept = await runInTransaction(tools, actor, async (context) => {
      await undo(context, eventId);
      return false;
    }).catch((error: unknown) => {
      if (!(error instanceof ProblemError)) throw error;
      return error.problem.detail !== 'This was undone already.';
    });
    await runInTransaction(tools, actor, async (context) => {
      await context.sequelize.query(
        `UPDATE import_rows SET outcome = CASE WHEN $kept THEN outcome ELSE 'left alone' END, reason = CASE WHEN $kept THEN 'kept' ELSE reason END
          WHERE import_id = $id AND before->>'eventId' = $event`,
        { bind: { id: one.id, event: eventId, kept: isKept }, transaction: context.tx },
      );
    });
    if (isKept) kept++;
  }
  await runInTransaction(tools, actor, async (context) => {
    const now = await loadImport(context, one.id, true);
    await context.write.update(now, {
      state: 'undone',
      done: 0,
      counts: { ...now.counts, kept },
      finishedAt: context.now(),
    });
    await context.write.event('undo import', `Undid the import of ${one.name}`, one.createdBy);
  });
}
