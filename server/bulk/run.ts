import { judge } from '@emporikon/core/bulk/judge';
import type { Addition, BulkKind, Named, Step, Verdict } from '@emporikon/core/bulk/types';
import { QueryTypes } from 'sequelize';
import { requireActor, runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { CHANGES_MANY, STEERS_MANY } from '../commands/followers';
import { pastSight } from '../commands/sight';
import { updateRows, type RowPatch } from '../commands/many';
import type { BulkChangeRow } from '../db/models/bulk';
import { ListMember } from '../db/models/fields';
import { ProjectPerson } from '../db/models/afterDeals';
import { enterMany } from '../ledger/enterMany';
import { startOfDay } from '@emporikon/core/query/time';
import { ProblemError } from '../http/problems';
import { writeNotices } from '../notices/write';
import { erasePerson } from '../privacy/erase';
import { addTask } from '../tasks/add';
import { asRecord, loadMemberships, loadRows, STORED, type Row } from './records';
import { loadNamed, requireBulkRights } from './named';
import { inLanes, loadBulk, lockBulk, lockLane, ofLane, withSightOf } from './view';

const NOUNS: Readonly<Record<BulkKind, readonly [string, string]>> = {
  person: ['person', 'people'],
  company: ['company', 'companies'],
  lead: ['lead', 'leads'],
  deal: ['deal', 'deals'],
};
/** Fewer where each record takes statements of its own. */
const [CHUNK, SLOW_CHUNK, SLOWEST_CHUNK] = [1000, 200, 20];
const chunkOf = (steps: readonly Step[]): number =>
  steps.some((step) => step.do === 'erase')
    ? SLOWEST_CHUNK
    : steps.some((step) => step.do === 'next move')
      ? SLOW_CHUNK
      : CHUNK;

/** A row beside the record that came or went. */
export interface Made {
  table: 'list_members' | 'project_people' | 'tasks';
  id: string;
  /** The list that was left, where the row went. */
  left?: string;
}

/** What became of one record. */
interface Outcome {
  row: number;
  outcome: 'changed' | 'stayed' | 'refused';
  why: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
  made: Made[] | null;
  entry_id: string | null;
}
interface Next {
  row: number;
  id: string;
}

const nextRows = (context: Context, id: string, limit: number, which = 'true'): Promise<Next[]> =>
  context.sequelize.query<Next>(
    `SELECT row, record_id AS id FROM bulk_rows WHERE bulk_id = $id AND outcome IS NULL AND ${which} ORDER BY row LIMIT $limit`,
    { bind: { id, limit }, type: QueryTypes.SELECT, transaction: context.tx },
  );

async function make(context: Context, addition: Addition, kind: BulkKind, row: Row): Promise<Made> {
  const ids = { id: context.newId(), personId: row.id };
  switch (addition.add) {
    case 'list':
      await context.write.insert(ListMember, { ...ids, listId: addition.to, createdAt: context.now() });
      return { table: 'list_members', id: ids.id };
    case 'project':
      await context.write.insert(ProjectPerson, { ...ids, projectId: addition.to, role: '' });
      return { table: 'project_people', id: ids.id };
    case 'next move': {
      const { title, due } = addition;
      const zone = requireActor(context).timeZone;
      const task = await addTask(
        context,
        { title, kind: 'task', dueAt: startOfDay(due, zone), allDay: true, zone },
        STORED[kind].concerns(row),
      );
      return { table: 'tasks', id: task.id };
    }
  }
}

async function leave(context: Context, listId: string, personId: string): Promise<Made | null> {
  const member = await ListMember.findOne({ where: { listId, personId }, transaction: context.tx });
  if (!member) return null;
  await context.write.remove(member);
  return { table: 'list_members', id: member.id, left: listId };
}

/** What the steps come to for each of some records, once they are held. */
async function judgeRows(
  context: Context,
  { kind, steps }: BulkChangeRow,
  rows: readonly Row[],
  named: Named,
): Promise<Map<string, Verdict>> {
  const memberships = await loadMemberships(
    context,
    steps,
    rows.map(({ id }) => id),
  );
  return new Map(rows.map((row) => [row.id, judge(asRecord(kind, row, memberships), steps, named)]));
}

/** What stands beside the records: rows of lists and projects, and next moves. */
async function writeBeside(
  context: Context,
  kind: BulkKind,
  rows: readonly Row[],
  verdicts: ReadonlyMap<string, Verdict>,
): Promise<Map<string, Made[]>> {
  const made = new Map<string, Made[]>();
  for (const row of rows) {
    const verdict = verdicts.get(row.id);
    if (verdict?.will !== 'change') continue;
    const own: Made[] = [];
    for (const addition of verdict.additions) own.push(await make(context, addition, kind, row));
    for (const list of verdict.leaves)
      own.push(...[await leave(context, list, row.id)].filter((one) => one !== null));
    if (own.length) made.set(row.id, own);
  }
  return made;
}

/** Erases those that are to be. @returns of whom something stands in the way of it, and what */
async function eraseRows(
  context: Context,
  { steps }: BulkChangeRow,
  verdicts: ReadonlyMap<string, Verdict>,
): Promise<Map<string, string>> {
  const stuck = new Map<string, string>();
  const note = steps.flatMap((step) => (step.do === 'erase' ? step.note : [])).join(' ');
  for (const [id, verdict] of verdicts) {
    if (verdict.will !== 'change' || !verdict.erases) continue;
    try {
      await erasePerson(context, id, { reason: 'asked', note });
    } catch (error) {
      // It is refused before anything is written.
      if (!(error instanceof ProblemError)) throw error;
      stuck.set(id, error.problem.detail);
    }
  }
  return stuck;
}

const pick = (row: Readonly<Record<string, unknown>>, keys: readonly string[]): Record<string, unknown> =>
  Object.fromEntries(keys.map((key) => [key, row[key] ?? null]));

/** What is written to the columns of those that change. */
const patchesOf = (
  { kind }: BulkChangeRow,
  rows: readonly Row[],
  verdicts: ReadonlyMap<string, Verdict>,
): RowPatch[] => {
  const { name, told, read } = STORED[kind];
  return rows.flatMap((row) => {
    const verdict = verdicts.get(row.id);
    if (verdict?.will !== 'change' || !Object.keys(verdict.patch).length) return [];
    return {
      ...{ id: row.id, version: row.version, patch: verdict.patch },
      before: pick(row, ['ownerId', ...read]),
      told: pick(row, [name, ...told]),
    };
  });
};

const keepOutcomes = (context: Context, id: string, outcomes: readonly Outcome[]): Promise<unknown> =>
  context.sequelize.query(
    `UPDATE bulk_rows b SET outcome = r.outcome, why = r.why, before = r.before, after = r.after, made = r.made, entry_id = r.entry_id
       FROM jsonb_to_recordset($rows::jsonb) AS r (row integer, outcome text, why text, before jsonb, after jsonb, made jsonb, entry_id uuid)
      WHERE b.bulk_id = $id::uuid AND b.row = r.row`,
    { bind: { id, rows: JSON.stringify(outcomes) }, transaction: context.tx },
  );

async function addUp(context: Context, id: string, outcomes: readonly Outcome[]): Promise<void> {
  const count = (outcome: Outcome['outcome']): number =>
    outcomes.filter((one) => one.outcome === outcome).length;
  await context.sequelize.query(
    `UPDATE bulk_changes SET done = done + $done, trouble = '', counts = jsonb_build_object(
       'changed', coalesce((counts ->> 'changed')::int, 0) + $changed, 'stayed', coalesce((counts ->> 'stayed')::int, 0) + $stayed,
       'refused', coalesce((counts ->> 'refused')::int, 0) + $refused) WHERE id = $id`,
    {
      bind: {
        ...{ id, done: outcomes.length, changed: count('changed'), stayed: count('stayed') },
        refused: count('refused'),
      },
      transaction: context.tx,
    },
  );
}

/** Does one chunk and notes what became of each record, all in one transaction. @returns whether there may be more */
async function runChunk(context: Context, id: string, lane: number): Promise<boolean> {
  await lockLane(context, id, lane);
  const bulk = await loadBulk(context, id);
  if (bulk.state !== 'running') return false;
  requireBulkRights(context, bulk);
  return withSightOf(context, bulk, () => runRows(context, bulk, lane));
}

async function runRows(context: Context, bulk: BulkChangeRow, lane: number): Promise<boolean> {
  const { id } = bulk;
  const next = await nextRows(context, id, chunkOf(bulk.steps), ofLane(lane));
  if (!next.length) return false;
  const named = await loadNamed(context, bulk.steps);
  const rows = await loadRows(
    context,
    bulk.kind,
    next.map((one) => one.id),
    true,
  );
  const verdicts = await judgeRows(context, bulk, rows, named);
  const patches = patchesOf(bulk, rows, verdicts);
  const patchOf = new Map(patches.map((one) => [one.id, one]));
  const made = await writeBeside(context, bulk.kind, rows, verdicts);
  const stuck = await eraseRows(context, bulk, verdicts);
  const byId = new Map(rows.map((row) => [row.id, row]));
  const outcomes = next.map(({ row, id: recordId }): Outcome => {
    const verdict = verdicts.get(recordId) ?? { will: 'refuse' as const, why: 'It is gone.' };
    const none = { row, why: '', before: null, after: null, made: null, entry_id: null };
    if (verdict.will === 'refuse') return { ...none, outcome: 'refused', why: verdict.why };
    if (verdict.will === 'stay') return { ...none, outcome: 'stayed' };
    if (verdict.erases) {
      const why = stuck.get(recordId);
      return why ? { ...none, outcome: 'refused', why } : { ...none, outcome: 'changed', why: verdict.said };
    }
    const { before, patch } = patchOf.get(recordId) ?? {};
    return {
      ...(before && patch ? { before: pick(before, Object.keys(patch)), after: patch } : none),
      ...{ row, why: verdict.said },
      ...{ outcome: 'changed', made: made.get(recordId) ?? null, entry_id: context.newId() },
    };
  });
  await enterMany(
    context,
    next.flatMap(({ id: recordId }, at) => {
      const { entry_id: entryId, why = '' } = outcomes[at] ?? {};
      const row = byId.get(recordId);
      return entryId && row ? { id: entryId, headline: why, about: STORED[bulk.kind].concerns(row) } : [];
    }),
    { actorId: bulk.createdBy, at: context.now() },
  );
  await keepOutcomes(context, id, outcomes);
  // What both lanes come to write comes last: counters of tags, and how far the change is.
  const { model } = STORED[bulk.kind];
  for (const change of await updateRows(context, context.tx, model, patches, context.now()))
    context.write.note(change);
  await addUp(context, id, outcomes);
  await context.write.event(CHANGES_MANY, `Bulk change: ${bulk.label}`, bulk.createdBy);
  return true;
}

/** Whoever became the owner of many records is told once. */
async function tellOwner(context: Context, bulk: BulkChangeRow, eventId: string): Promise<void> {
  const owner = bulk.steps.flatMap((step) => (step.do === 'owner' && step.to ? step.to : []))[0];
  const changed = bulk.counts?.changed ?? 0;
  if (!owner || owner === bulk.createdBy || !changed) return;
  const [one, many] = NOUNS[bulk.kind];
  await pastSight(context, () =>
    writeNotices(context, context.tx, { id: eventId, actorId: bulk.createdBy, at: context.now() }, [
      { userId: owner, kind: 'owner', title: changed === 1 ? `1 ${one}` : `${changed} ${many}` },
    ]),
  );
}

async function finish(context: Context, id: string): Promise<void> {
  await lockBulk(context, id);
  const bulk = await loadBulk(context, id, true);
  const [open] = await nextRows(context, id, 1);
  if (bulk.state !== 'running' || open) return;
  await context.write.update(bulk, { state: 'done', finishedAt: context.now() });
  const eventId = await context.write.event(STEERS_MANY, `Done: ${bulk.label}`, bulk.createdBy);
  if (eventId) await tellOwner(context, bulk, eventId);
}

/**
 * Works through a change of many records, to its end or to where it is paused. Killed at any moment it has done whole
 * chunks only, and the next run goes on with the first record that has no outcome.
 */
export async function runBulk(tools: Tools, id: string, actor: Actor): Promise<void> {
  await inLanes((lane) =>
    runInTransaction(tools, actor, (context) =>
      context.write.asConsequence(() => runChunk(context, id, lane)),
    ),
  );
  await runInTransaction(tools, actor, (context) => finish(context, id));
}
