import type { Erasure, KeepingTime } from '@emporikon/contract/privacy';
import type { Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { KeepingTimeRow } from '../db/models/privacy';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { erasePerson, previewErasure } from './erase';
import { findOld } from './keeping';
import { ask } from './sql';

interface ErasureRow {
  id: string;
  at: Date;
  by_id: string | null;
  by_name: string | null;
  reason: Erasure['reason'];
  note: string;
  counts: Erasure['counts'];
}

const asErasure = (row: ErasureRow): Erasure => ({
  id: row.id,
  at: row.at.toISOString(),
  by: row.by_id && row.by_name ? { id: row.by_id, name: row.by_name } : null,
  reason: row.reason,
  note: row.note,
  counts: row.counts,
});

const listErasures = (context: Context, cursor: string | undefined, limit: number): Promise<ErasureRow[]> => {
  const [at = null, id = null] = decodeCursor(cursor, 2);
  return ask<ErasureRow>(
    context,
    `SELECT e.id, e.at, u.id AS by_id, u.name AS by_name, e.reason, e.note, e.counts FROM erasures e LEFT JOIN users u ON u.id = e.erased_by
      WHERE $at::timestamptz IS NULL OR (e.at, e.id) < ($at::timestamptz, $id::uuid) ORDER BY e.at DESC, e.id DESC LIMIT $limit::int`,
    { at, id, limit: limit + 1 },
  );
};

const asTime = ({ kind, version, months }: KeepingTimeRow): KeepingTime => ({
  kind,
  version: version ?? 1,
  months,
});
const COUNTED = 1000;
const SAMPLES = 5;

export const privacyHandlers: Handlers = {
  'GET /api/people/:id/erasure': async ({ params, context }) => previewErasure(context, params.id),
  'POST /api/people/:id/erasure': async ({ params, body, context }) => ({
    counts: await erasePerson(context, params.id, { reason: 'asked', note: body.note }),
  }),
  'GET /api/erasures': async ({ query, context }) =>
    pageOf(await listErasures(context, query.cursor, query.limit), query.limit, asErasure, (row) => [
      row.at.toISOString(),
      row.id,
    ]),
  'GET /api/keeping-times': async ({ context }) => ({
    items: (await KeepingTimeRow.findAll({ transaction: context.tx })).map(asTime),
  }),
  'GET /api/keeping-times/preview': async ({ query, context }) => {
    const all = await pastSight(context, () => findOld(context, query.kind, query.months, COUNTED + 1));
    const seen = await findOld(context, query.kind, query.months, SAMPLES);
    return {
      count: all.length,
      oldest: all[0]?.since.toISOString() ?? null,
      samples: seen.map(({ id, name, since }) => ({ id, name, since: since.toISOString() })),
    };
  },
  'PATCH /api/keeping-times': async ({ body, context }) => {
    const row = await KeepingTimeRow.findOne({ where: { kind: body.kind }, transaction: context.tx });
    if (!row) throw notFound('There is no such keeping time.');
    await context.write.update(row, { months: body.months }, body.version);
    await context.write.event(
      'set keeping time',
      `Changed the keeping time: ${body.kind}`,
      context.actor?.id ?? null,
    );
    return asTime(row);
  },
};
