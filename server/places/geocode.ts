import { hasStreet } from '@emporikon/core/people/addresses';
import type { Position } from '@emporikon/core/places/area';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { addJob, defineJob } from '../jobs/job';
import { placeSoon } from './due';

/** So many are asked for in a row; the rest wait for the next round, so that other work outside is not kept waiting. */
const AT_ONCE = 50;
const MOST_TRIES = 5;
const AGAIN_MINUTES = 10;
/** The geocoder is asked no more than about twice a second. */
const PAUSE_MS = 500;

interface Asked {
  id: string;
  kind: 'person' | 'company';
  address: string;
  country: string;
  tries: number;
}
const ask = <Row extends object>(
  context: Context,
  sql: string,
  bind: Record<string, unknown>,
): Promise<Row[]> =>
  context.sequelize.query<Row>(sql, { bind, type: QueryTypes.SELECT, transaction: context.tx });

/** Notes those whose address names a street, where there is a geocoder that may know it. */
export async function askForStreets(
  context: Context,
  rows: readonly { id: string; address: string | null }[],
): Promise<void> {
  if (!context.outside.geocoder) return;
  const ids = rows.flatMap(({ id, address }) => (address && hasStreet(address) ? [id] : []));
  if (!ids.length) return;
  await ask(
    context,
    `INSERT INTO places_asked (record_id, again_at) SELECT unnest($ids::uuid[]), $now
     ON CONFLICT (record_id) DO UPDATE SET again_at = $now, tries = 0 RETURNING record_id`,
    { ids, now: context.now() },
  );
  await addJob(context, geocodeJob, {}, 'geocode-records');
}

const nextAsked = (context: Context): Promise<Asked[]> =>
  ask(
    context,
    `SELECT a.record_id AS id, g.kind, g.country, a.tries, coalesce(p.address, c.address) AS address
       FROM places_asked a JOIN places g ON g.record_id = a.record_id AND g.company_id IS NULL
       LEFT JOIN people p ON p.id = a.record_id LEFT JOIN companies c ON c.id = a.record_id
      WHERE a.again_at <= $now AND coalesce(p.address, c.address) IS NOT NULL
        AND NOT EXISTS (SELECT 1 FROM places_due d WHERE d.record_id = a.record_id)
      ORDER BY a.again_at, a.record_id LIMIT 1`,
    { now: context.now() },
  );

/** Puts a record where the geocoder says, unless its address is another by now; the people of a company go with it. */
async function move(context: Context, { id, kind, address }: Asked, at: Position | null): Promise<void> {
  await ask(context, 'DELETE FROM places_asked WHERE record_id = $id RETURNING record_id', { id });
  if (!at) return;
  await ask(
    context,
    `WITH moved AS (UPDATE places g SET lon = $lon, lat = $lat, precision = 'address'
        WHERE g.record_id = $id AND g.company_id IS NULL AND NOT EXISTS (SELECT 1 FROM places_due d WHERE d.record_id = g.record_id)
          AND (EXISTS (SELECT 1 FROM people p WHERE p.id = $id AND p.address = $address)
            OR EXISTS (SELECT 1 FROM companies c WHERE c.id = $id AND c.address = $address)) RETURNING g.record_id)
     INSERT INTO places_due SELECT p.id, 'person' FROM moved m JOIN places g ON g.company_id = m.record_id JOIN people p ON p.id = g.record_id
     ON CONFLICT DO NOTHING RETURNING record_id`,
    { id, address, lon: at[0], lat: at[1] },
  );
  if (kind === 'company') await placeSoon(context);
}

async function askNext(tools: Tools): Promise<boolean> {
  const { geocoder } = tools.outside;
  const [asked] = geocoder ? await runInTransaction(tools, null, nextAsked) : [];
  if (!geocoder || !asked) return false;
  try {
    const at = await geocoder.find(asked.address, asked.country);
    await runInTransaction(tools, null, (context) => move(context, asked, at));
  } catch {
    // It stays where its town is, and is asked for again later; after some tries no more.
    await runInTransaction(tools, null, (context) =>
      ask(
        context,
        `WITH given_up AS (DELETE FROM places_asked WHERE record_id = $id AND tries + 1 >= ${MOST_TRIES} RETURNING record_id)
         UPDATE places_asked SET tries = tries + 1, again_at = $now::timestamptz + make_interval(mins => ${AGAIN_MINUTES} * (2 ^ tries)::int)
          WHERE record_id = $id AND NOT EXISTS (SELECT 1 FROM given_up) RETURNING record_id`,
        { id: asked.id, now: context.now() },
      ),
    );
  }
  return true;
}

/** Asks the geocoder for the addresses that name a street, one after the other. */
export const geocodeJob = defineJob({
  name: 'geocodeRecords',
  lane: 'outside',
  cron: '*/10 * * * *',
  input: z.unknown(),
  async run(tools) {
    for (let count = 0; count < AT_ONCE; count++) {
      if (!(await askNext(tools))) return;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
    await runInTransaction(tools, null, (context) => addJob(context, geocodeJob, {}, 'geocode-records'));
  },
});
