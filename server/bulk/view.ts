import type { BulkChange } from '@emporikon/contract/bulk';
import { requireActor, type Context } from '../commands/context';
import { lockNames } from '../commands/locks';
import { pastSight } from '../commands/sight';
import { BulkChangeRow } from '../db/models/bulk';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';

/** As many as the machine this is meant for has cores. Each takes rows of its own. */
const LANES = 2;
/** Which rows a lane takes, as SQL over the number of the row. */
export const ofLane = (lane: number): string => `row % ${LANES} = ${lane}`;

/** One chunk at a time in a lane. A lock of its own, so that the change can be looked at and paused meanwhile. */
export const lockLane = (context: Context, id: string, lane: number): Promise<void> =>
  lockNames(context, [`bulk:${id}/${lane}`]);
/** Waits until no chunk of a change is being done. */
export const lockBulk = (context: Context, id: string): Promise<void> =>
  lockNames(
    context,
    Array.from({ length: LANES }, (_, lane) => `bulk:${id}/${lane}`),
  );
/** Does chunks in every lane until there are no more. */
export async function inLanes(chunk: (lane: number) => Promise<boolean>): Promise<void> {
  await Promise.all(
    Array.from({ length: LANES }, async (_, lane) => {
      while (await chunk(lane));
    }),
  );
}

/** Works with what a change may reach: what its author sees, or all of it. */
export const withSightOf = <Result>(
  context: Context,
  { pastSight: isPast }: BulkChangeRow,
  work: () => Promise<Result>,
): Promise<Result> => (isPast ? pastSight(context, work) : work());

/** @throws 404 for one there is none of, or that is somebody else's */
export async function loadBulk(context: Context, id: string, isLocked = false): Promise<BulkChangeRow> {
  const row = await BulkChangeRow.findByPk(id, { transaction: context.tx, lock: isLocked });
  const { actor } = context;
  if (!row || (actor && row.createdBy !== actor.id && actor.role !== 'admin'))
    throw notFound('There is no such change.');
  return row;
}

export const asBulkChange = (row: BulkChangeRow, by: string): BulkChange => ({
  id: row.id,
  kind: row.kind,
  steps: row.steps,
  label: row.label,
  state: row.state,
  total: row.total,
  done: row.done ?? 0,
  counts: { changed: 0, stayed: 0, refused: 0, kept: 0, ...row.counts },
  trouble: row.trouble ?? '',
  by,
  createdAt: row.createdAt.toISOString(),
  finishedAt: row.finishedAt?.toISOString() ?? null,
});

export async function bulkView(context: Context, id: string): Promise<BulkChange> {
  const row = await loadBulk(context, id);
  const user = await User.findByPk(row.createdBy, { transaction: context.tx });
  return asBulkChange(row, user?.name ?? '');
}

export async function listBulk(context: Context, limit: number): Promise<BulkChange[]> {
  const actor = requireActor(context);
  const rows = await BulkChangeRow.findAll({
    where: actor.role === 'admin' ? {} : { createdBy: actor.id },
    order: [
      ['createdAt', 'DESC'],
      ['id', 'ASC'],
    ],
    limit,
    transaction: context.tx,
  });
  const users = await User.findAll({
    where: { id: rows.map(({ createdBy }) => createdBy) },
    transaction: context.tx,
  });
  const names = new Map(users.map(({ id, name }) => [id, name]));
  return rows
    .filter(({ state, createdBy }) => state !== 'previewed' || createdBy === actor.id)
    .map((row) => asBulkChange(row, names.get(row.createdBy) ?? ''));
}
