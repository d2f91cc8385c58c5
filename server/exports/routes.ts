import type { Export } from '@emporikon/contract/exports';
import { FORMAT_NAMES } from '@emporikon/core/outgoing/formats';
import type { Query } from '@emporikon/core/query/types';
import { requireActor, type Context } from '../commands/context';
import { HANDS_OVER } from '../commands/followers';
import { ExportRow } from '../db/models/exports';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';
import { addJob } from '../jobs/job';
import { KEPT_MS, makeExportJob } from './jobs';
import { countOf } from './make';
import { loadOutgoing } from './rows';

/** So many at once are enough for anybody. */
const MOST_RUNNING = 3;

const asExport = (row: ExportRow): Export => ({
  id: row.id,
  label: row.label,
  kind: row.query.kind,
  format: row.format,
  state: row.state,
  total: row.total,
  done: row.done,
  size: row.state === 'done' ? Number(row.size) : 0,
  trouble: row.trouble,
  createdAt: row.createdAt.toISOString(),
  finishedAt: row.finishedAt?.toISOString() ?? null,
  expiresAt: new Date(row.createdAt.getTime() + KEPT_MS).toISOString(),
});

/** @throws 404 for one there is none of, or that is somebody else's */
export async function loadExport(context: Context, id: string): Promise<ExportRow> {
  const row = await ExportRow.findOne({
    where: { id, ownerId: requireActor(context).id },
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such export. Files are kept for a day.');
  return row;
}

export const exportHandlers: Handlers = {
  'POST /api/exports': async ({ body, context }) => {
    const query = body.query as Query;
    const { format, dateField } = body;
    const { spec } = await loadOutgoing(context, { query, format, dateField });
    const actor = requireActor(context);
    const running = await ExportRow.count({
      where: { ownerId: actor.id, state: 'running' },
      transaction: context.tx,
    });
    if (running >= MOST_RUNNING)
      throw conflict(
        `${MOST_RUNNING} exports of yours are under way. Wait for one, or stop one in Settings.`,
      );
    const total = await countOf(context, query);
    const label = body.name ?? spec.many;
    const row = await context.write.insert(ExportRow, {
      id: context.newId(),
      ownerId: actor.id,
      label,
      format,
      query,
      dateField: dateField ?? null,
      state: 'running',
      total,
      createdAt: context.now(),
    });
    const counted = `${total} ${total === 1 ? spec.one : spec.many}`;
    await context.write.event(HANDS_OVER, `Exported ${counted}: ${FORMAT_NAMES[format].name}`, actor.id);
    await addJob(context, makeExportJob, { id: row.id, by: actor.id }, `export:${row.id}`);
    return asExport(row);
  },
  'GET /api/exports': async ({ context }) => {
    const rows = await ExportRow.findAll({
      where: { ownerId: requireActor(context).id },
      order: [
        ['createdAt', 'DESC'],
        ['id', 'ASC'],
      ],
      limit: 60,
      transaction: context.tx,
    });
    return { items: rows.map(asExport) };
  },
  'GET /api/exports/:id': async ({ params, context }) => asExport(await loadExport(context, params.id)),
  'DELETE /api/exports/:id': async ({ params, context }) => {
    const row = await loadExport(context, params.id);
    await row.destroy({ transaction: context.tx });
    return { ok: true as const };
  },
};
