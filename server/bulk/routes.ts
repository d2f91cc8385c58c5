import type { BulkChange } from '@emporikon/contract/bulk';
import type { Query } from '@emporikon/core/query/types';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { STEERS_MANY } from '../commands/followers';
import type { BulkChangeRow } from '../db/models/bulk';
import type { Handlers } from '../http/mount';
import { cannotUndo, conflict } from '../http/problems';
import { addBulkJob } from './jobs';
import { requireBulkRights } from './named';
import { prepareBulk } from './prepare';
import { STORED } from './records';
import { bulkView, listBulk, loadBulk } from './view';

type State = BulkChangeRow['state'];

/** Brings a change from one of some states into another. @throws 409 from any other state */
async function turn(
  context: Context,
  id: string,
  {
    from,
    to,
    done,
    job,
    otherwise,
  }: {
    from: readonly State[];
    to: State;
    /** What stands in the history, before what is done. */
    done: string;
    job?: 'run' | 'undo';
    otherwise: string;
  },
): Promise<BulkChange> {
  const bulk = await loadBulk(context, id, true);
  if (bulk.state === to) return bulkView(context, id);
  if (!from.includes(bulk.state)) throw conflict(otherwise);
  const actor = requireActor(context);
  await context.write.update(bulk, { state: to, trouble: '', finishedAt: null });
  if (job) await addBulkJob(context, job, bulk, actor.id);
  await context.write.event(STEERS_MANY, `${done} a bulk change: ${bulk.label}`, actor.id);
  return bulkView(context, id);
}

/** Begins a change that was previewed, or goes on with one. */
export const startBulk = (context: Context, id: string): Promise<BulkChange> =>
  turn(context, id, {
    from: ['previewed', 'paused', 'failed'],
    to: 'running',
    done: 'Began',
    job: 'run',
    otherwise: 'This change is over. Preview a new one.',
  });

interface Row {
  row: number;
  id: string;
  name: string | null;
  outcome: string | null;
  why: string;
}

async function listRows(
  context: Context,
  id: string,
  { outcome, after, limit }: { outcome?: string | undefined; after: number; limit: number },
): Promise<{ items: Row[]; next: number | null }> {
  const { kind } = await loadBulk(context, id);
  const { model, name } = STORED[kind];
  const column = (model.getAttributes() as Record<string, { field?: string }>)[name]?.field ?? name;
  const rows = await context.sequelize.query<Row>(
    `SELECT b.row, b.record_id AS id, t.${column} AS name, b.outcome, CASE WHEN t.id IS NULL THEN '' ELSE b.why END AS why
       FROM bulk_rows b LEFT JOIN ${model.tableName} t ON t.id = b.record_id
      WHERE b.bulk_id = $id AND b.row > $after AND ($outcome::text IS NULL OR b.outcome = $outcome) ORDER BY b.row LIMIT $limit`,
    {
      bind: { id, after, outcome: outcome ?? null, limit: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const items = rows.slice(0, limit);
  return { items, next: rows.length > limit ? (items.at(-1)?.row ?? null) : null };
}

export const bulkHandlers: Handlers = {
  'POST /api/bulk-changes': async ({ body: { kind, on, steps }, context }) => {
    requireBulkRights(context, { kind, steps });
    return prepareBulk(context, { kind, steps, on: 'ids' in on ? on : { query: on.query as Query } });
  },
  'GET /api/bulk-changes': async ({ query, context }) => ({ items: await listBulk(context, query.limit) }),
  'GET /api/bulk-changes/:id': async ({ params, context }) => bulkView(context, params.id),
  'GET /api/bulk-changes/:id/rows': async ({ params, query, context }) => listRows(context, params.id, query),
  'POST /api/bulk-changes/:id/start': async ({ params, context }) => {
    requireBulkRights(context, await loadBulk(context, params.id));
    return startBulk(context, params.id);
  },
  'POST /api/bulk-changes/:id/pause': async ({ params, context }) =>
    turn(context, params.id, {
      from: ['running'],
      to: 'paused',
      done: 'Paused',
      otherwise: 'This change is not under way.',
    }),
  'POST /api/bulk-changes/:id/undo': async ({ params, context }) => {
    const bulk = await loadBulk(context, params.id);
    requireBulkRights(context, bulk);
    if (bulk.steps.some((step) => step.do === 'erase'))
      throw cannotUndo('What was erased cannot be brought back.');
    return turn(context, params.id, {
      from: ['done', 'paused', 'failed'],
      to: 'undoing',
      done: 'Took back',
      job: 'undo',
      otherwise: 'Only a change that is done or paused can be undone.',
    });
  },
};
