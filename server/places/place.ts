import { lookedUp, placeOf, type Addressed, type Placed, type Town } from '@emporikon/core/places/place';
import { QueryTypes } from 'sequelize';
import { askForStreets } from './geocode';
import { runInTransaction, type Context, type Tools } from '../commands/context';

const AT_ONCE = 500;
type Kind = 'person' | 'company';
interface Due {
  record_id: string;
  kind: Kind;
}
interface Row extends Addressed {
  id: string;
  companyId: string | null;
}

const ask = <Found extends object>(context: Context, sql: string, bind: object): Promise<Found[]> =>
  context.sequelize.query<Found>(sql, {
    bind: bind as Record<string, unknown>,
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });

const ADDRESSED: Readonly<Record<Kind, string>> = {
  person: `SELECT id, address, address_parts AS parts, NULL AS country, company_id AS "companyId" FROM people WHERE id = ANY ($ids::uuid[])`,
  company: `SELECT id, address, NULL AS parts, country, NULL AS "companyId" FROM companies WHERE id = ANY ($ids::uuid[])`,
};

/** Where addresses are, in their order. */
async function placesOf(context: Context, rows: readonly Addressed[]): Promise<(Placed | null)[]> {
  const asked = rows.map(lookedUp);
  const names = new Set([
    '',
    ...asked.flatMap((one) => [...one.names, ...one.coded.map(({ name }) => name)]),
  ]);
  const found = await ask<Town & { key: string }>(
    context,
    `SELECT n.name AS key, t.name, t.country, t.population::float8 AS population, t.lon, t.lat
       FROM town_names n JOIN towns t ON t.id = n.town_id WHERE n.name = ANY ($names::text[])`,
    { names: [...names] },
  );
  const towns = new Map<string, Town[]>();
  for (const { key, ...town } of found) towns.set(key, [...(towns.get(key) ?? []), town]);
  return asked.map((one) => placeOf(one, towns));
}

interface Kept extends Placed {
  id: string;
  companyId: string | null;
}
/** @returns the records whose place is another than before */
async function keep(
  context: Context,
  kind: Kind,
  ids: readonly string[],
  kept: readonly Kept[],
): Promise<string[]> {
  const of = <Key extends keyof Kept>(key: Key): Kept[Key][] => kept.map((one) => one[key]);
  const gone = await ask<{ id: string }>(
    context,
    'DELETE FROM places WHERE record_id = ANY ($ids::uuid[]) AND NOT record_id = ANY ($kept::uuid[]) RETURNING record_id AS id',
    { ids, kept: of('id') },
  );
  const changed = await ask<{ id: string }>(
    context,
    `INSERT INTO places AS p (record_id, kind, lon, lat, precision, town, country, company_id)
     SELECT id, $kind, lon, lat, precision, town, country, company_id
       FROM unnest($ids::uuid[], $lons::float8[], $lats::float8[], $precisions::text[], $towns::text[], $countries::text[], $companies::uuid[])
         AS k(id, lon, lat, precision, town, country, company_id)
     ON CONFLICT (record_id) DO UPDATE SET lon = excluded.lon, lat = excluded.lat, precision = excluded.precision,
       town = excluded.town, country = excluded.country, company_id = excluded.company_id
      WHERE (p.lon, p.lat, p.precision, p.town, p.country, p.company_id)
        IS DISTINCT FROM (excluded.lon, excluded.lat, excluded.precision, excluded.town, excluded.country, excluded.company_id)
     RETURNING record_id AS id`,
    {
      kind,
      ids: of('id'),
      lons: of('lon'),
      lats: of('lat'),
      precisions: of('precision'),
      towns: of('town'),
      countries: of('country'),
      companies: of('companyId'),
    },
  );
  return [...gone, ...changed].map(({ id }) => id);
}

async function placeCompanies(context: Context, ids: readonly string[]): Promise<void> {
  const rows = await ask<Row>(context, ADDRESSED.company, { ids });
  const found = await placesOf(context, rows);
  const kept = rows.flatMap(({ id }, at) => (found[at] ? [{ ...found[at], id, companyId: null }] : []));
  const changed = await keep(context, 'company', ids, kept);
  await askForStreets(context, rows);
  // Its people without a place of their own are where it is.
  await ask(
    context,
    `INSERT INTO places_due SELECT p.id, 'person' FROM people p LEFT JOIN places g ON g.record_id = p.id
      WHERE p.company_id = ANY ($changed::uuid[]) AND (g.record_id IS NULL OR g.company_id IS NOT NULL)
     ON CONFLICT DO NOTHING RETURNING record_id`,
    { changed },
  );
}

async function placePeople(context: Context, ids: readonly string[]): Promise<void> {
  const rows = await ask<Row>(context, ADDRESSED.person, { ids });
  const found = await placesOf(context, rows);
  const without = rows.flatMap(({ companyId }, at) => (!found[at] && companyId ? [companyId] : []));
  const firms = await ask<Placed & { id: string }>(
    context,
    `SELECT record_id AS id, lon, lat, precision, town, country FROM places WHERE record_id = ANY ($without::uuid[])`,
    { without },
  );
  const byFirm = new Map(firms.map(({ id, ...place }) => [id, place]));
  const kept = rows.flatMap(({ id, companyId }, at) => {
    const own = found[at];
    if (own) return [{ ...own, id, companyId: null }];
    const firm = companyId ? byFirm.get(companyId) : undefined;
    return firm ? [{ ...firm, id, companyId }] : [];
  });
  await keep(context, 'person', ids, kept);
  await askForStreets(context, rows);
}

/** Takes some of what is due, companies first. @returns whether there was anything */
async function placeSome(context: Context): Promise<boolean> {
  const due = await ask<Due>(
    context,
    `DELETE FROM places_due WHERE record_id IN (SELECT record_id FROM places_due ORDER BY kind, record_id LIMIT ${AT_ONCE} FOR UPDATE SKIP LOCKED)
     RETURNING record_id, kind`,
    {},
  );
  const of = (kind: Kind): string[] => due.flatMap((one) => (one.kind === kind ? [one.record_id] : []));
  const [companies, people] = [of('company'), of('person')];
  if (companies.length) await placeCompanies(context, companies);
  if (people.length) await placePeople(context, people);
  return due.length > 0;
}

/** Places every record whose address changed since it was placed. */
export async function placeDue(tools: Tools): Promise<void> {
  while (await runInTransaction(tools, null, placeSome));
}
