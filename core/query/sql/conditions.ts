import { boxAround, areaOfBox, cornersOf, turnsOf, type Position } from '../../places/area';
import { boundsOf, usersOf, yearlyOf } from '../conditions';
import { plainText } from '../text';
import type { Comparison, Field, Filter, RelationCount, RelationHas } from '../types';
import { asList } from '../values';
import { castOf, Scope } from './scope';
import type { Cast, SqlField } from './storage';

/** What is not known to be so is not so. */
const not = (sql: string): string => `(${sql}) IS NOT TRUE`;
const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const escapeLike = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

function isOneOf(scope: Scope, sql: string, values: readonly unknown[], cast: Cast): string {
  if (cast === 'uuid') {
    // What is no id is nobody's, and PostgreSQL would refuse it.
    const ids = values.filter((value) => UUID.test(String(value)));
    if (ids.length < values.length) return ids.length ? isOneOf(scope, sql, ids, cast) : 'false';
  }
  const [only] = values;
  return values.length === 1
    ? `${sql} = ${scope.binder.bind(only, cast)}`
    : `${sql} = ANY (${scope.binder.bind(values, `${cast}[]`)})`;
}

function ofText(scope: Scope, sql: string, { op, value }: Comparison): string {
  const texts = asList(value).map((one) => plainText(String(one)));
  const folded = `query_text(${sql})`;
  if (op !== 'contains' && op !== 'startsWith') return isOneOf(scope, folded, texts, 'text');
  const patterns = texts.map((text) => `${op === 'contains' ? '%' : ''}${escapeLike(text)}%`);
  const parts = patterns.map((pattern) => `${folded} LIKE ${scope.binder.bind(pattern, 'text')}`);
  return parts.length > 1 ? `(${parts.join(' OR ')})` : (parts[0] ?? 'false');
}

const NUMERIC: Partial<Record<Comparison['op'], string>> = {
  under: '<',
  atMost: '<=',
  over: '>',
  atLeast: '>=',
};
function ofNumber(scope: Scope, sql: string, { op, value }: Comparison, cast: Cast): string {
  const numbers = asList(value).map(Number);
  const as = numbers.every(
    (number) => Number.isInteger(number) && Math.abs(number) < (cast === 'int8' ? 2 ** 53 : 2 ** 31),
  )
    ? cast
    : 'numeric';
  const [first = 0, last = 0] = numbers;
  if (op === 'is') return isOneOf(scope, sql, numbers, as);
  if (op === 'between')
    return `${sql} BETWEEN ${scope.binder.bind(first, as)} AND ${scope.binder.bind(last, as)}`;
  return `${sql} ${NUMERIC[op] ?? '='} ${scope.binder.bind(first, as)}`;
}

function ofTime(scope: Scope, sql: string, type: 'day' | 'time', { op, value }: Comparison): string {
  const cast = type === 'day' ? 'date' : 'timestamptz';
  const [from, to] = boundsOf(value, type, scope.schema.asking);
  const bind = (at: string): string => scope.binder.bind(at, cast);
  if (op === 'before') return `${sql} < ${bind(from)}`;
  if (op === 'after') return `${sql} >= ${bind(to)}`;
  if (op === 'since') return `${sql} >= ${bind(from)}`;
  if (op === 'until') return `${sql} < ${bind(to)}`;
  return `(${sql} >= ${bind(from)} AND ${sql} < ${bind(to)})`;
}

function ofYearly(scope: Scope, sql: string, { value }: Comparison): string {
  const ranges = yearlyOf(value, scope.schema.asking).map(
    ([from, to]) =>
      `right(${sql}, 5) BETWEEN ${scope.binder.bind(from, 'text')} AND ${scope.binder.bind(to, 'text')}`,
  );
  return ranges.length ? `(${ranges.join(' OR ')})` : 'false';
}

const polygon = (corners: readonly Position[]): string =>
  `(${corners.map(([lon, lat]) => `(${lon},${lat})`).join(',')})`;
/** Positions within an area, as GiST knows them; and within some km of one. */
function ofPlace(scope: Scope, { place }: SqlField, { op, value }: Comparison): string {
  const numbers = asList(value).map(Number);
  const [lon = 0, lat = 0, km = 0] = numbers;
  const area = op === 'inside' ? numbers : areaOfBox(boxAround([lon, lat], km));
  const turns = turnsOf(cornersOf(area)).map(
    (corners) => `point(g.lon, g.lat) <@ ${scope.binder.bind(polygon(corners), 'polygon')}`,
  );
  const holds = [`(${turns.join(' OR ')})`];
  if (op === 'near') {
    const bind = (number: number): string => scope.binder.bind(number, 'float8');
    holds.push(`km_between(${bind(lon)}, ${bind(lat)}, g.lon, g.lat) <= ${bind(km)}`);
  }
  return `${scope.fill(place?.key ?? 'NULL')} IN (SELECT g.record_id FROM places g WHERE ${[...holds, place?.seen ?? 'true'].join(' AND ')})`;
}

const emptyOf = (sql: string, { type }: Field): string => {
  if (type === 'text' || type === 'choice') return `(${sql}) IS NULL OR (${sql})::text = ''`;
  return type === 'several' ? `coalesce(cardinality(${sql}), 0) = 0` : `(${sql}) IS NULL`;
};

/** How an index answers it, where the field says so. */
function byIndex(
  { op, value }: Comparison,
  { type }: Field,
  { yes, no, only }: SqlField,
): string | undefined {
  if (only && op === 'is') {
    const values = asList(value);
    return values.length === 1 ? only[String(values[0])] : undefined;
  }
  if (type === 'flag') return value === true ? yes : no;
  if (type === 'number' || type === 'money') {
    if ((op === 'over' && value === 0) || (op === 'atLeast' && value === 1 && type === 'number')) return yes;
    return (op === 'is' && value === 0) || (op === 'under' && value === 1 && type === 'number')
      ? no
      : undefined;
  }
  return op === 'filled' ? yes : op === 'empty' ? no : undefined;
}

function compareSql(scope: Scope, comparison: Comparison): string {
  const { op, value } = comparison;
  if (op === 'isNot') return not(compareSql(scope, { ...comparison, op: 'is' }));
  if (op === 'hasNone') return not(compareSql(scope, { ...comparison, op: 'hasAny' }));
  const { field, stored } = scope.known(comparison.field);
  const known = byIndex(comparison, field, stored);
  if (known !== undefined) return `(${scope.fill(known, stored.knownJoins)})`;
  const { sql } = scope.field(comparison.field);
  if (op === 'empty') return `(${emptyOf(sql, field)})`;
  if (op === 'filled') return not(emptyOf(sql, field));
  const cast = castOf(field, stored);
  switch (field.type) {
    case 'flag':
      return value === true ? `(${sql}) IS TRUE` : `(${sql}) IS NOT TRUE`;
    case 'number':
    case 'money':
      return ofNumber(scope, sql, comparison, cast);
    case 'day':
    case 'time':
      return ofTime(scope, sql, field.type, comparison);
    case 'yearly':
      return ofYearly(scope, sql, comparison);
    case 'several': {
      const values = scope.binder.bind(asList(value), 'text[]');
      return op === 'hasAll' ? `${sql} @> ${values}` : `${sql} && ${values}`;
    }
    case 'user':
      return isOneOf(scope, sql, usersOf(value, scope.schema.asking), cast);
    case 'choice':
      return isOneOf(scope, sql, asList(value), cast);
    case 'place':
      return ofPlace(scope, stored, comparison);
    case 'text':
      return ofText(scope, sql, comparison);
    case 'calculated':
      return 'false';
  }
}

function relationSql(scope: Scope, filter: RelationHas | RelationCount): string {
  const { kind, from, on, alias } = scope.relation(filter.relation);
  const inner = new Scope(scope.schema, scope.binder, kind, alias);
  const where = filter.where ? conditionSql(inner, filter.where) : 'true';
  const related = (holds: string): string => `SELECT 1 FROM ${from} ${inner.joins} WHERE ${on} AND ${holds}`;
  if ('count' in filter) {
    const { op, value } = filter.count;
    if (op === 'atLeast' && value <= 1) return value < 1 ? 'true' : `EXISTS (${related(where)})`;
    const sign = op === 'is' ? '=' : op === 'atLeast' ? '>=' : '<=';
    // No more are counted than it takes to know.
    const most = scope.binder.bind(value + 1, 'int8');
    return `(SELECT count(*) FROM (${related(where)} LIMIT ${most}) few) ${sign} ${scope.binder.bind(value, 'int8')}`;
  }
  if (filter.has === 'any') return `EXISTS (${related(where)})`;
  if (filter.has === 'none') return `NOT EXISTS (${related(where)})`;
  return `(EXISTS (${related('true')}) AND NOT EXISTS (${related(not(where))}))`;
}

/** A condition as SQL over the records of a scope. @param filter checked by `checkQuery` */
export function conditionSql(scope: Scope, filter: Filter): string {
  if ('all' in filter)
    return filter.all.length
      ? `(${filter.all.map((part) => conditionSql(scope, part)).join(' AND ')})`
      : 'true';
  if ('any' in filter)
    return filter.any.length
      ? `(${filter.any.map((part) => conditionSql(scope, part)).join(' OR ')})`
      : 'false';
  if ('not' in filter) return not(conditionSql(scope, filter.not));
  return 'relation' in filter ? relationSql(scope, filter) : compareSql(scope, filter);
}
