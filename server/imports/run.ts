import { QueryTypes, UniqueConstraintError } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import { addJob } from '../jobs/job';
import { lookAlikesJob } from '../lookalikes/run';
import { placeSoon } from '../places/due';
import { makeCompanies } from './companies';
import { judgeRows } from './preview';
import { recordTarget, runRecords } from './recordJobs';
import type { RowData } from './source';
import { choicesOf, loadImport, lockImport } from './view';
import type { ReadyRow } from './contacts';
import { writeRows } from './write';

const CHUNK = 4000;
/** As many as the machine this is meant for has cores. */
const LANES = 2;

interface Stored {
  row: number;
  verdict: 'new' | 'same' | 'maybe' | 'unusable';
  data: RowData;
}

/** Whether anybody has changed people or their addresses since the preview, other than this import. */
async function isChanged(context: Context, one: Import): Promise<boolean> {
  const [row] = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM events e JOIN imports i ON i.id = :id
      WHERE (i.seen IS NULL OR (e.tx >= pg_snapshot_xmin(i.seen) AND NOT pg_visible_in_snapshot(e.tx, i.seen)))
        AND (e.changes @> '[{"table":"people"}]' OR e.changes @> '[{"table":"contact_points"}]' OR e.command IN ('import', 'undo import')) LIMIT 1`,
    { replacements: { id: one.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const [other] = await context.sequelize.query<{ id: string }>(
    "SELECT id FROM imports WHERE id <> :id AND state IN ('running', 'undoing') LIMIT 1",
    { replacements: { id: one.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row !== undefined || other !== undefined;
}

/** Rows of one chunk by what is to be done with them; judged anew where the records may have changed since the preview. */
async function sort(
  context: Context,
  one: Import,
  rows: readonly Stored[],
  isClashed: boolean,
): Promise<ReadyRow[]> {
  const choices = choicesOf(one);
  const all = isClashed || (await isChanged(context, one));
  const open = rows.filter((row) => row.verdict !== 'unusable' && (all || row.verdict !== 'new'));
  const judged = open.length
    ? await judgeRows(
        context,
        open.map((row) => ({ row: row.row, data: row.data, key: null, reason: '', leftOut: '', cells: [] })),
      )
    : [];
  const now = new Map(open.map((row, at) => [row.row, judged[at]]));
  return rows.map(({ row, data, verdict: seen }): ReadyRow => {
    const verdict = now.get(row) ?? { verdict: seen, personId: null };
    if (verdict.verdict === 'unusable') return { row, data, act: 'reject', personId: null };
    if (verdict.verdict === 'same')
      return { row, data, act: choices.known === 'skip' ? 'leave' : 'change', personId: verdict.personId };
    if (verdict.verdict === 'maybe' && choices.maybe === 'skip')
      return { row, data, act: 'reject', personId: null };
    return { row, data, act: 'make', personId: null };
  });
}

/** The next rows of a lane. Two lanes never share a row, and a row that is the same as an earlier one waits for it. */
const nextRows = (context: Context, id: string, lane: number): Promise<Stored[]> =>
  context.sequelize.query<Stored>(
    `SELECT row, verdict, data FROM import_rows
      WHERE import_id = :id AND outcome IS NULL AND ${lane < LANES ? "verdict = 'new' AND row % :lanes = :lane" : "verdict <> 'new'"} ORDER BY row LIMIT :limit`,
    {
      replacements: { id, limit: CHUNK, lanes: LANES, lane },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );

/** Writes one chunk and notes what became of each row, all in one transaction. @returns whether there is more to do */
async function runChunk(tools: Tools, id: string, lane: number, isClashed: boolean): Promise<boolean> {
  return runInTransaction(tools, null, async (context) => {
    await context.sequelize.query('SET LOCAL synchronous_commit = off', { transaction: context.tx });
    await lockImport(context, `${id}/${lane}`);
    const one = await loadImport(context, id);
    if (one.state !== 'running') return false;
    const rows = await nextRows(context, id, lane);
    if (!rows.length) return false;
    await writeRows(context, one, await sort(context, one, rows, isClashed));
    await context.sequelize.query('UPDATE imports SET done = done + :count WHERE id = :id', {
      replacements: { id, count: rows.length },
      transaction: context.tx,
    });
    return true;
  });
}

const UNIQUE_VIOLATION = '23505';
const MOST_CLASHES = 5;

/** Whether somebody took an address, or made a company, between the judging of a chunk and its writing. */
const isUniqueViolation = (error: unknown): boolean =>
  error instanceof UniqueConstraintError ||
  (error instanceof Error && 'code' in error && error.code === UNIQUE_VIOLATION);

/** One chunk; where somebody was faster, it is judged anew by what stands there now. @returns whether there may be more */
async function runChunkOf(tools: Tools, id: string, lane: number): Promise<boolean> {
  for (let clashes = 0; ; clashes++)
    try {
      return await runChunk(tools, id, lane, clashes > 0);
    } catch (error) {
      if (clashes >= MOST_CLASHES || !isUniqueViolation(error)) throw error;
    }
}

/** Makes the companies of all rows first, so that the lanes after it only look them up. */
async function prepareCompanies(tools: Tools, id: string): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await loadImport(context, id);
    if (one.state !== 'running' || one.reading?.companies) return;
    const rows = await context.sequelize.query<Stored>(
      `SELECT DISTINCT ON (data->>'company') data FROM import_rows
        WHERE import_id = :id AND outcome IS NULL AND data ? 'company' AND (verdict IN ('new', 'same') OR (verdict = 'maybe' AND :takesMaybe))`,
      {
        replacements: { id, takesMaybe: choicesOf(one).maybe === 'as new' },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    const made = await makeCompanies(
      context,
      rows.map((row) => row.data),
      choicesOf(one).ownerId ?? one.createdBy,
    );
    await context.sequelize.query(
      "UPDATE imports SET reading = coalesce(reading, '{}') || jsonb_build_object('companies', :made::jsonb) WHERE id = :id",
      { replacements: { id, made: JSON.stringify([...made.values()]) }, transaction: context.tx },
    );
  });
}

async function outcomes(context: Context, id: string): Promise<Record<string, number>> {
  const rows = await context.sequelize.query<{ outcome: string; n: number }>(
    'SELECT outcome, count(*)::int AS n FROM import_rows WHERE import_id = :id AND outcome IS NOT NULL GROUP BY 1',
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return Object.fromEntries(rows.map((row) => [row.outcome, row.n]));
}

async function finish(tools: Tools, id: string): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await loadImport(context, id, true);
    const [open] = await nextRows(context, id, LANES);
    if (one.state !== 'running' || open) return;
    await context.write.update(one, {
      state: 'done',
      counts: { ...one.counts, ...(await outcomes(context, one.id)) },
      finishedAt: context.now(),
    });
    await context.write.event('import', `Imported ${one.name}`, one.createdBy);
    await addJob(context, lookAlikesJob, { kind: 'person' }, 'look-alikes:person');
    await placeSoon(context);
  });
}

async function runLane(tools: Tools, id: string, lane: number): Promise<void> {
  while (await runChunkOf(tools, id, lane));
}

/**
 * Runs an import to its end, or to where it is paused. Killed at any moment it has done whole chunks only, and the next
 * run goes on with the first rows that have no outcome.
 */
export async function runImport(tools: Tools, id: string): Promise<void> {
  const one = await Import.findByPk(id);
  const target = one && recordTarget(one);
  if (one && target) {
    await runRecords(tools, one, target);
    await finish(tools, id);
    return;
  }
  await prepareCompanies(tools, id);
  await Promise.all(Array.from({ length: LANES }, (_, lane) => runLane(tools, id, lane)));
  await runLane(tools, id, LANES);
  await finish(tools, id);
}
