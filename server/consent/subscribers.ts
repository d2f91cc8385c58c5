import type { In, Parsed, Reply } from '@emporikon/contract';
import { covers } from '@emporikon/core/outreach/coverage';
import type { Places } from '@emporikon/core/outreach/coverage';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Topic } from '../db/models/consent';
import { invalid, notFound } from '../http/problems';
import { decodeCursor, encodeCursor } from '../http/paging';
import { offeredAreas } from './areas';

interface Row {
  id: string;
  name: string;
  address: string | null;
  places: Places | null;
  since: Date;
}

/** So many are looked at for one page: where only few of them want to hear of a spot, a page is shorter, and the next one goes on. */
const LOOKED_AT = 2000;

/** Who wants to hear of a topic, and agreed to its purpose; by their record, of one spot where one is given. */
export async function listSubscribers(
  context: Context,
  { id }: In<'GET /api/topics/:id/subscribers', 'params'>,
  { cursor, limit, country, postCode, lon, lat }: Parsed<'GET /api/topics/:id/subscribers', 'query'>,
): Promise<Reply<'GET /api/topics/:id/subscribers'>> {
  const topic = await Topic.findOne({ where: { id, retiredAt: null }, transaction: context.tx });
  if (!topic) throw notFound('There is no such topic.');
  if ((postCode === undefined) !== (country === undefined) || (lon === undefined) !== (lat === undefined))
    throw invalid('A post code takes its country, and a longitude its latitude.');
  const [after = null] = cursor ? decodeCursor(cursor, 1) : [];
  const isOfSpot = postCode !== undefined || lon !== undefined;
  const spot = {
    at: lon !== undefined && lat !== undefined ? ([lon, lat] as const) : null,
    postCode: postCode && country ? { country, code: postCode } : null,
  };
  const rows = await context.sequelize.query<Row>(
    `SELECT p.id, p.full_name AS name, t.places, t.at AS since,
       (SELECT k.value FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email' AND k.reach = 'good' ORDER BY k.created_at, k.id LIMIT 1) AS address
       FROM people p
       JOIN LATERAL (SELECT s.* FROM consent_states s WHERE s.person_id = p.id AND s.purpose_id = $purposeId::uuid AND s.topic_id = $id::uuid) t ON t.state = 'agreed'
       JOIN LATERAL (SELECT s.* FROM consent_states s WHERE s.person_id = p.id AND s.purpose_id = $purposeId::uuid AND s.topic_id IS NULL) q ON q.state = 'agreed'
      WHERE p.erased_at IS NULL AND p.id IN (SELECT c.person_id FROM consents c WHERE c.topic_id = $id::uuid AND c.state = 'agreed')
        AND ($after::uuid IS NULL OR p.id > $after::uuid)
      ORDER BY p.id LIMIT $most`,
    {
      bind: { id, purposeId: topic.purposeId, after, most: isOfSpot ? LOOKED_AT : limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const outlines = new Map((await offeredAreas(context)).map((area) => [area.id, area.corners]));
  const wanted = isOfSpot ? rows.filter(({ places }) => covers(places, spot, outlines)) : rows;
  const items = wanted.slice(0, limit);
  const last =
    wanted.length > limit ? items.at(-1) : isOfSpot && rows.length === LOOKED_AT ? rows.at(-1) : null;
  return {
    items: items.map(({ since, ...one }) => ({ ...one, since: since.toISOString() })),
    next: last ? encodeCursor([last.id]) : null,
  };
}
