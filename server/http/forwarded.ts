import type { FastifyInstance, FastifyRequest } from 'fastify';
import { QueryTypes } from 'sequelize';
import type { Tools } from '../commands/context';

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
/** The names under which a call speaks of a person or a company. */
const NAMES = new Set([
  'personId',
  'companyId',
  'parentId',
  'recordId',
  'survivorId',
  'mergedIds',
  'ids',
  'person',
  'company',
]);
const RECORDS = /^\/api\/(?:visibility\/:kind|people|companies)\/:id(?:\/|$)/;
const MOST = 60;
const DEEP = 4;

type Holder = Record<string, unknown>;
interface Place {
  holder: Holder;
  key: string;
  id: string;
}

const isUuid = (value: unknown): value is string => typeof value === 'string' && UUID.test(value);

/** Where in a request ids of records may stand. */
function placesIn(value: unknown, depth = 0): Place[] {
  if (!value || typeof value !== 'object' || depth > DEEP) return [];
  const holder = value as Holder;
  return Object.entries(holder).flatMap(([key, one]) => {
    if (NAMES.has(key) && isUuid(one)) return [{ holder, key, id: one }];
    if (NAMES.has(key) && Array.isArray(one))
      return one.flatMap((id, at) =>
        isUuid(id) ? [{ holder: one as unknown as Holder, key: String(at), id }] : [],
      );
    return placesIn(one, depth + 1);
  });
}

function placesOf(request: FastifyRequest): Place[] {
  const params = request.params as Holder;
  const own =
    RECORDS.test(request.routeOptions.url ?? '') && isUuid(params.id)
      ? [{ holder: params, key: 'id', id: params.id }]
      : [];
  const body = Buffer.isBuffer(request.body) ? null : request.body;
  return [...own, ...placesIn(request.query), ...placesIn(body)].slice(0, MOST);
}

/**
 * Old ids still work: a call that speaks of a record which was merged into another speaks of that one. One question to
 * the database, and only for calls that name a record.
 */
export function followForwardings(app: FastifyInstance, { sequelize }: Tools): void {
  app.addHook('preHandler', async (request) => {
    if (!request.actor) return;
    const places = placesOf(request);
    if (!places.length) return;
    const rows = await sequelize.query<{ id: string; to_id: string }>(
      'SELECT id, to_id FROM forwardings WHERE id = ANY ($ids::uuid[])',
      { bind: { ids: places.map((place) => place.id) }, type: QueryTypes.SELECT },
    );
    const now = new Map(rows.map((row) => [row.id, row.to_id]));
    for (const { holder, key, id } of places) {
      const to = now.get(id.toLowerCase());
      if (to) holder[key] = to;
    }
  });
}
