import type { Box } from '../../places/area';
import { wholeFilter } from '../defaults';
import type { Filter, Query } from '../types';
import { conditionSql } from './conditions';
import { Binder, Scope, type Schema, type Statement } from './scope';

/** The field that says where a record is. */
export const PLACE_FIELD = 'place';
/** Web Mercator, in degrees of longitude: cells are square on the map. */
const northing = (lat: string): string =>
  `degrees(ln(tan(pi() / 4 + radians(greatest(-85, least(85, ${lat}))) / 2)))`;

function placedRecords(query: Query, schema: Schema, binder: Binder, more: readonly Filter[]) {
  const scope = new Scope(schema, binder, query.kind, 'r');
  const { place } = scope.known(PLACE_FIELD).stored;
  if (!place) throw new RangeError(`${scope.spec.many} have no place`);
  const where = conditionSql(scope, { all: [wholeFilter(query, scope.spec), ...more] });
  const join = `places g ON g.record_id = ${scope.fill(place.key)} AND ${place.seen}`;
  return { scope, join, from: `${scope.table} r ${scope.joins}`, where: `${where}${scope.recordsOnly}` };
}

/** How many records a query shows, `count`, and how many of them have a place, `placed`. */
export function compilePlaced(query: Query, schema: Schema): Statement {
  const binder = new Binder();
  const { from, join, where } = placedRecords(query, schema, binder, []);
  return binder.statement(
    `SELECT count(*) AS count, count(g.record_id) AS placed FROM ${from} LEFT JOIN ${join} WHERE ${where}`,
  );
}

/**
 * The records of a query in a part of the map, put together by cell.
 * @param across how many cells stand side by side
 * @returns a statement that answers `lon` and `lat`, the middle of what is in the cell, `count`, the bounds `west`, `south`,
 *   `east`, `north`, and `id` where it is one record
 */
export function compileClusters(
  query: Query,
  schema: Schema,
  { box: [west, south, east, north], across, most }: { box: Box; across: number; most: number },
): Statement {
  const binder = new Binder();
  const area: Filter = {
    field: PLACE_FIELD,
    op: 'inside',
    value: [west, south, east, south, east, north, west, north],
  };
  const { scope, from, join, where } = placedRecords(query, schema, binder, [area]);
  const bind = (number: number): string => binder.bind(number, 'float8');
  const cell = bind((east - west) / across);
  // Beyond the 180th meridian, positions count on from there.
  const lon = `(CASE WHEN g.lon < ${bind(west)} THEN g.lon + 360 WHEN g.lon > ${bind(east)} THEN g.lon - 360 ELSE g.lon END)`;
  const rows = `SELECT ${scope.alias}.id, ${lon} AS lon, g.lat FROM ${from} JOIN ${join} WHERE ${where}`;
  return binder.statement(
    `SELECT avg(lon) AS lon, avg(lat) AS lat, count(*) AS count, min(lon) AS west, min(lat) AS south, max(lon) AS east, max(lat) AS north,
        CASE WHEN count(*) = 1 THEN min(id::text) END AS id
       FROM (${rows}) q GROUP BY floor(lon / ${cell}), floor(${northing('lat')} / ${cell}) ORDER BY count(*) DESC, 1, 2 LIMIT ${binder.bind(most, 'int8')}`,
  );
}

/** The records of a query that are nearest to a position, with their distance: `id`, `km`. */
export function compileNearest(
  query: Query,
  schema: Schema,
  { at: [lon, lat], km, most }: { at: readonly [number, number]; km: number; most: number },
): Statement {
  const binder = new Binder();
  const near: Filter = { field: PLACE_FIELD, op: 'near', value: [lon, lat, km] };
  const { from, join, where } = placedRecords(query, schema, binder, [near]);
  const bind = (number: number): string => binder.bind(number, 'float8');
  return binder.statement(
    `SELECT r.id, km_between(${bind(lon)}, ${bind(lat)}, g.lon, g.lat) AS km, g.town, g.precision
       FROM ${from} JOIN ${join} WHERE ${where} ORDER BY km, r.id LIMIT ${binder.bind(most, 'int8')}`,
  );
}
