import type { Cluster, PlaceView, Town } from '@emporikon/contract/places';
import { fold } from '@emporikon/core/people/text';
import { areaOfBox, cornersOf, turnsOf, type Box } from '@emporikon/core/places/area';
import type { Precision } from '@emporikon/core/places/place';
import {
  compileClusters,
  compileNearest,
  compilePlaced,
  PLACE_FIELD,
} from '@emporikon/core/query/sql/places';
import type { Schema, Statement } from '@emporikon/core/query/sql/scope';
import type { Query } from '@emporikon/core/query/types';
import type { Context } from '../commands/context';
import { clientOf, askPrepared } from '../db/prepared';
import { invalid } from '../http/problems';
import { valuesOf } from '../query/answer';
import { schemaFor } from '../query/views';

/** More groups than fit on any screen. */
const MOST_CLUSTERS = 800;

const run = async <Row extends object>(context: Context, { text, values }: Statement): Promise<Row[]> =>
  (await clientOf(context).query<Row>({ text, values })).rows;

/** @throws 422 for records that have no location */
async function schemaWithPlaces(context: Context, query: Query): Promise<Schema> {
  const schema = await schemaFor(context, query);
  const spec = schema.registry[query.kind];
  if (!spec.fields.has(PLACE_FIELD)) throw invalid(`There is no map of ${spec.many}: they have no location.`);
  return schema;
}

async function namesOf(
  context: Context,
  schema: Schema,
  kind: Query['kind'],
  ids: readonly string[],
): Promise<(id: string) => string> {
  const { name } = schema.registry[kind];
  const said = await valuesOf(context, schema, { kind, columns: [name] }, ids);
  return (id) => String(said.get(id)?.values[name] ?? '');
}

export async function clustersOf(
  context: Context,
  query: Query,
  box: Box,
  across: number,
): Promise<{ items: Cluster[]; count: number; placed: number }> {
  const schema = await schemaWithPlaces(context, query);
  const rows = await run<
    Omit<Cluster, 'box' | 'name' | 'count'> &
      Record<'west' | 'south' | 'east' | 'north', number> & { count: string }
  >(context, compileClusters(query, schema, { box, across, most: MOST_CLUSTERS }));
  const [all] = await run<{ count: string; placed: string }>(context, compilePlaced(query, schema));
  const nameOf = await namesOf(
    context,
    schema,
    query.kind,
    rows.flatMap(({ id }) => id ?? []),
  );
  return {
    items: rows.map(({ lon, lat, count, west, south, east, north, id }) => ({
      lon,
      lat,
      count: Number(count),
      box: [west, south, east, north],
      id,
      name: id ? nameOf(id) : '',
    })),
    count: Number(all?.count ?? 0),
    placed: Number(all?.placed ?? 0),
  };
}

export async function nearestOf(
  context: Context,
  query: Query,
  { at, km, limit }: { at: readonly [number, number]; km: number; limit: number },
): Promise<{ id: string; name: string; km: number; precision: Precision; town: string }[]> {
  const schema = await schemaWithPlaces(context, query);
  const rows = await run<{ id: string; km: number; precision: Precision; town: string }>(
    context,
    compileNearest(query, schema, { at, km, most: limit }),
  );
  const nameOf = await namesOf(
    context,
    schema,
    query.kind,
    rows.map(({ id }) => id),
  );
  return rows.map((row) => ({ ...row, name: nameOf(row.id) }));
}

const polygon = (corners: readonly (readonly [number, number])[]): string =>
  `(${corners.map(([lon, lat]) => `(${lon},${lat})`).join(',')})`;

/** The largest towns in a part of the map, or those whose name begins with some letters. */
export async function townsOf(
  context: Context,
  { name, box, limit }: { name?: string | undefined; box?: Box | undefined; limit: number },
): Promise<Town[]> {
  const columns = 't.name, t.country, t.population::int AS population, t.lon, t.lat';
  if (box) {
    const [first, second = first] = turnsOf(cornersOf(areaOfBox(box))).map(polygon);
    return askPrepared<Town>(
      context,
      `SELECT ${columns} FROM towns t WHERE t.name <> '' AND (point(t.lon, t.lat) <@ $first::polygon OR point(t.lon, t.lat) <@ $second::polygon)
        ORDER BY t.population DESC, t.id LIMIT $limit::int`,
      { first, second, limit },
    );
  }
  const letters = fold(name ?? '');
  if (letters.length < 2) throw invalid('Say two letters of the town, or a part of the map.');
  return askPrepared<Town>(
    context,
    `SELECT ${columns} FROM towns t WHERE t.name <> '' AND t.id IN (SELECT n.town_id FROM town_names n WHERE n.name LIKE $start)
      ORDER BY t.population DESC, t.id LIMIT $limit::int`,
    { start: `${letters.replace(/[\\%_]/g, '\\$&')}%`, limit },
  );
}

/** Where a record is that the actor may see; a place of the company only where they may see that as well. */
export async function placeOfRecord(context: Context, id: string): Promise<PlaceView | null> {
  const [found] = await askPrepared<PlaceView>(
    context,
    `SELECT g.lon, g.lat, g.precision, g.town, g.country, g.company_id IS NOT NULL AS "ofCompany" FROM places g
      WHERE g.record_id = $id::uuid AND (g.company_id IS NULL OR EXISTS (SELECT 1 FROM companies c WHERE c.id = g.company_id))`,
    { id },
  );
  return found ?? null;
}
