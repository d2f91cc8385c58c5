import { wholeFilter } from '../defaults';
import type { Field, Group, Order, Query, Total } from '../types';
import { conditionSql } from './conditions';
import { Binder, castOf, Scope, type Schema, type Statement } from './scope';
import type { Cast } from './storage';

interface Key {
  sql: string;
  cast: Cast;
  direction: 'asc' | 'desc';
  isRequired: boolean;
}

const isoTime = (sql: string): string =>
  `to_char((${sql}) AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`;

/** What rows are grouped by, how that is told as text, and what the groups stand in the order of. */
interface Grouping {
  value: string;
  shown: (value: string) => string;
  order: string;
  cast: Cast;
}

const asText = (value: string): string => `(${value})::text`;

function groupSql(scope: Scope, { field: key, by }: Group): Grouping {
  const { field, sql } = scope.field(key);
  const text = (value: string): Grouping => ({ value, shown: asText, order: value, cast: 'text' });
  if (field.options)
    return { value: sql, shown: asText, order: optionOrder(scope, field, asText(sql)), cast: 'int4' };
  switch (field.type) {
    case 'flag': {
      const value = `((${sql}) IS TRUE)`;
      return { value, shown: asText, order: value, cast: 'bool' };
    }
    case 'day':
    case 'time': {
      const unit = scope.binder.bind(typeof by === 'string' && by !== 'letter' ? by : 'day', 'text');
      const local =
        field.type === 'time' ? scope.fill(`(${sql}) AT TIME ZONE {zone}`) : `(${sql})::timestamp`;
      const value = `date_trunc(${unit}, ${local})`;
      return { value, shown: (start) => `to_char(${start}, 'YYYY-MM-DD')`, order: value, cast: 'timestamp' };
    }
    case 'yearly':
      return text(`left(right(${sql}, 5), 2)`);
    case 'number':
    case 'money': {
      if (typeof by === 'object') {
        const band = `width_bucket((${sql})::numeric, ${scope.binder.bind(by.bands, 'numeric[]')})`;
        return { value: band, shown: asText, order: band, cast: 'int4' };
      }
      const shown = (number: string): string => `trim_scale((${number})::numeric)::text`;
      return { value: sql, shown, order: `(${sql})::numeric`, cast: 'numeric' };
    }
    default: {
      if (by !== 'letter') return { ...text(sql), order: asText(sql) };
      const letter = `upper(left(query_text(${sql}), 1))`;
      return text(
        `(CASE WHEN ${letter} ~ '^[[:alpha:]]$' THEN ${letter} WHEN (${sql}) IS NOT NULL THEN '#' END)`,
      );
    }
  }
}

const optionOrder = (scope: Scope, { options = [] }: Field, text: string): string =>
  `array_position(${scope.binder.bind(
    options.map(({ value }) => value),
    'text[]',
  )}, ${text})`;

function orderKey(scope: Scope, { field: key, direction }: Order): Key {
  const { field, stored, sql } = scope.field(key);
  const isRequired = stored.isRequired ?? false;
  if (field.type === 'flag')
    return { sql: `(CASE WHEN ${sql} THEN 1 ELSE 0 END)`, cast: 'int4', direction, isRequired: true };
  if (field.options)
    return { sql: optionOrder(scope, field, `(${sql})::text`), cast: 'int4', direction, isRequired: false };
  if (field.type === 'yearly') return { sql: `right(${sql}, 5)`, cast: 'text', direction, isRequired };
  return { sql, cast: castOf(field, stored), direction, isRequired };
}

function keysOf(scope: Scope, { groups = [], order = [] }: Query): Key[] {
  const ofGroups = groups.map((group): Key => {
    const { order: sql, cast } = groupSql(scope, group);
    return { sql, cast, direction: 'asc', isRequired: false };
  });
  return [...ofGroups, ...order.map((one) => orderKey(scope, one))];
}

/** Whatever stands after a row in the order of some keys and then of the id. */
function afterSql(scope: Scope, keys: readonly Key[], last: readonly (string | null)[], id: string): string {
  const bind = (at: number): string => scope.binder.bind(last[at] ?? null, keys[at]?.cast ?? 'text');
  const same = (key: Key, at: number): string =>
    last[at] === null || last[at] === undefined ? `${key.sql} IS NULL` : `${key.sql} = ${bind(at)}`;
  const further = (key: Key, at: number): string => {
    if (last[at] === null || last[at] === undefined) return 'false';
    const sign = key.direction === 'asc' ? '>' : '<';
    return key.isRequired
      ? `${key.sql} ${sign} ${bind(at)}`
      : `(${key.sql} ${sign} ${bind(at)} OR ${key.sql} IS NULL)`;
  };
  const ways = keys.map((key, at) => [...keys.slice(0, at).map(same), further(key, at)].join(' AND '));
  const byId = [...keys.map(same), `${scope.alias}.id > ${scope.binder.bind(id, 'uuid')}`].join(' AND ');
  return [...ways, byId].map((way) => `(${way})`).join(' OR ');
}

export interface Page {
  limit: number;
  /** The rows whose first key is filled in come first, then those where it is not; what is asked for by part can be read along an index. */
  part: 'filled' | 'empty';
  /** The keys of the last row seen, and its id. */
  after?: { keys: readonly (string | null)[]; id: string } | undefined;
  /** Rows before this text in the first key are left out. */
  from?: string | undefined;
}

/** Whether the first key of a query can be missing, so that its rows come in two parts. */
export function hasEmptyPart(query: Query, schema: Schema): boolean {
  const [first] = keysOf(new Scope(schema, new Binder(), query.kind, 'r'), query);
  return first !== undefined && !first.isRequired;
}

/**
 * The ids of one page of a query.
 * @param query checked by `checkQuery`
 * @returns a statement that answers `id`, the text of each key, `k0`, `k1` …, and what the row is grouped under, `g0` …
 */
export function compileRows(
  query: Query,
  schema: Schema,
  { limit, part, after, from }: Page,
): Statement & { keys: number } {
  const binder = new Binder();
  const scope = new Scope(schema, binder, query.kind, 'r');
  const where = [conditionSql(scope, wholeFilter(query, scope.spec))];
  const keys = keysOf(scope, query);
  const [first] = keys;
  if (first && part === 'empty') where.push(`(${first.sql}) IS NULL`);
  else if (first && !first.isRequired) where.push(`(${first.sql}) IS NOT NULL`);
  if (from !== undefined && first && part === 'filled')
    where.push(`${first.sql} ${first.direction === 'asc' ? '>=' : '<='} ${binder.bind(from, 'text')}`);
  if (after) {
    const bound = after.keys[0];
    // Says nothing new, but an index can begin with it.
    if (first && part === 'filled' && bound !== null && bound !== undefined)
      where.push(`${first.sql} ${first.direction === 'asc' ? '>=' : '<='} ${binder.bind(bound, first.cast)}`);
    where.push(`(${afterSql(scope, keys, after.keys, after.id)})`);
  }
  const order = keys
    .slice(part === 'empty' ? 1 : 0)
    .map(
      (key, at) =>
        `${key.sql} ${key.direction}${key.isRequired || (at === 0 && part === 'filled') ? '' : ' NULLS LAST'}`,
    );
  const selected = [
    ...keys.map(({ sql }, at) => `${asText(sql)} AS k${at}`),
    ...(query.groups ?? []).map((one, at) => {
      const { value, shown } = groupSql(scope, one);
      return `${shown(value)} AS g${at}`;
    }),
  ];
  const text = `SELECT ${['r.id', ...selected].join(', ')} FROM ${scope.table} r ${scope.joins}
    WHERE ${where.join(' AND ')}${scope.recordsOnly} ORDER BY ${[...order, 'r.id'].join(', ')} LIMIT ${binder.bind(limit, 'int8')}`;
  return { ...binder.statement(text), keys: keys.length };
}

function totalSql(how: Total['how'], sql: string, type: Field['type']): string {
  if (how === 'median') return `percentile_cont(0.5) WITHIN GROUP (ORDER BY (${sql})::float8)`;
  const made = `${{ sum: 'sum', mean: 'avg', least: 'min', most: 'max', count: 'count' }[how]}(${sql})`;
  if (type === 'time') return isoTime(made);
  return type === 'day' ? `(${made})::text` : made;
}

/**
 * The totals of a query: of everything, and of each group on each level.
 * @param most so many rows at most
 * @returns a statement that answers the keys `s0` …, `level` (a bit set for each that is summed over, as GROUPING gives it),
 *   `count`, and the totals `t0` …
 */
export function compileTotals(query: Query, schema: Schema, most: number): Statement {
  const binder = new Binder();
  const scope = new Scope(schema, binder, query.kind, 'r');
  const where = conditionSql(scope, wholeFilter(query, scope.spec));
  const groups = (query.groups ?? []).map((group) => groupSql(scope, group));
  const totals = (query.totals ?? []).map(({ how, field: key = '' }) =>
    how === 'count'
      ? { how, sql: 'NULL', type: 'number' as const }
      : { how, sql: scope.field(key).sql, type: scope.field(key).field.type },
  );
  const inner = [
    ...groups.map(({ value }, at) => `${value} AS g${at}`),
    ...totals.map(({ sql }, at) => `${sql} AS v${at}`),
  ];
  const names = groups.map((_, at) => `g${at}`);
  const results = totals.map(({ how, type }, at) =>
    how === 'count' ? `count(*) AS t${at}` : `${totalSql(how, `v${at}`, type)} AS t${at}`,
  );
  const level = names.length ? `GROUPING(${names.join(', ')})` : '0';
  const rest = names.length
    ? `GROUP BY ROLLUP (${names.join(', ')}) ORDER BY level DESC, ${names.join(', ')} LIMIT ${binder.bind(most, 'int8')}`
    : '';
  const shown = groups.map((group, at) => `${group.shown(`g${at}`)} AS s${at}`);
  const text = `SELECT ${[...shown, `${level} AS level`, 'count(*) AS count', ...results].join(', ')}
    FROM (SELECT ${inner.length ? inner.join(', ') : '1'} FROM ${scope.table} r ${scope.joins} WHERE ${where}${scope.recordsOnly}) q ${rest}`;
  return binder.statement(text);
}

/**
 * What some records say in some fields.
 * @returns a statement that answers `id`, `values`, a JSON object by field, and `links`, the ids of the records that fields name
 */
export function compileValues(
  { kind, columns }: { kind: Query['kind']; columns: readonly string[] },
  schema: Schema,
  ids: readonly string[],
): Statement {
  const binder = new Binder();
  const scope = new Scope(schema, binder, kind, 'r');
  const parts = columns.map((key) => {
    const { field, sql } = scope.field(key);
    const shown = field.type === 'time' ? isoTime(sql) : field.type === 'flag' ? `(${sql}) IS TRUE` : sql;
    return `jsonb_build_object(${binder.bind(key, 'text')}, ${shown})`;
  });
  const links = Object.entries(schema.storage[kind].links ?? {}).filter(([key]) => columns.includes(key));
  const linked = links.map(
    ([key, sql]) => `jsonb_build_object(${binder.bind(key, 'text')}, ${scope.fill(sql)})`,
  );
  const text = `SELECT r.id, ${parts.length ? parts.join(' || ') : "'{}'::jsonb"} AS values,
      ${linked.length ? linked.join(' || ') : "'{}'::jsonb"} AS links
    FROM ${scope.table} r ${scope.joins} WHERE r.id = ANY (${binder.bind(ids, 'uuid[]')})`;
  return binder.statement(text);
}
