import { isGroupable, isSortable, OPERATORS, TOTALS } from '@emporikon/core/query/operators';
import type {
  Field,
  Filter,
  Group,
  KindSpec,
  Operator,
  PlainRecord,
  PlainValue,
  Query,
  Registry,
  Value,
  When,
} from '@emporikon/core/query/types';

type Random = () => number;
/** Kinds of records with data to ask of, and the fields of theirs that the data has. */
export interface Askable {
  registry: Registry;
  records: Readonly<Record<string, readonly PlainRecord[]>>;
  me: string;
}

const pickFrom =
  (next: Random) =>
  <T>(values: readonly T[]): T =>
    values[Math.floor(next() * values.length)] as T;

function someWhen(next: Random): When {
  const pick = pickFrom(next);
  const unit = pick(['day', 'week', 'month', 'quarter', 'year'] as const);
  const day = pick(['2026-03-29', '2026-06-01', '2025-12-31', '2024-02-29', '2026-03-01']);
  return pick<When>([
    { day },
    { unit, day },
    { unit, shift: pick([-2, -1, 0, 1]) },
    { away: pick([-90, -30, -1, 0, 14]), unit: 'day' },
  ]);
}

/** A value that some records have, changed a little now and then. */
function someValue(
  next: Random,
  field: Field,
  op: Operator,
  seen: readonly PlainValue[],
  me: string,
): Value | undefined {
  const pick = pickFrom(next);
  const known = seen.filter((value) => value !== null && value !== '');
  if (op === 'empty' || op === 'filled') return undefined;
  switch (field.type) {
    case 'flag':
      return next() < 0.5;
    case 'number':
    case 'money': {
      const number = (): number => Number(pick([...known, 0, 1, 7.5])) + pick([0, 0, 1]);
      return op === 'between' ? [number(), number()] : number();
    }
    case 'day':
    case 'time':
    case 'yearly':
      return op === 'between' ? [someWhen(next), someWhen(next)] : someWhen(next);
    case 'place': {
      const [lat = 0, lon = 0] = String(known.length ? pick(known) : '0,0')
        .split(',')
        .map(Number);
      if (op === 'near') return [lon, lat, pick([0.5, 30, 400, 3000, 12_000])];
      const wide = pick([0.5, 3, 40]);
      const [west, north] = [lon - wide * next(), Math.min(87, lat + 5 * next())];
      // Now and then an area whose line crosses itself.
      return pick([
        [west, lat - 3, west + wide, lat - 3, west + wide, north + 1, west, north + 1],
        [west, lat - 4, west + wide, north + 2, west + wide, lat - 4, west, north + 2],
        [west, lat - 4, west + wide, lat - 2, west + wide / 2, north + 3],
      ]);
    }
    case 'user':
      return pick([['me'], ['myTeam'], [me], known.length ? [String(pick(known)), 'me'] : ['me']]);
    case 'several':
      return [pick(['bakery', 'courier', 'vip']), pick(['Ölmühle', 'nothing'])];
    case 'choice': {
      const values = field.options?.map(({ value }) => value) ?? known.map(String);
      return values.length ? [pick(values), pick(values)] : ['x'];
    }
    case 'text': {
      const whole = String(known.length ? pick(known) : 'x');
      const at = Math.floor(next() * whole.length);
      const text =
        op === 'is' || op === 'isNot' ? whole : whole.slice(op === 'startsWith' ? 0 : at, at + 3) || whole;
      return [next() < 0.5 ? text : text.toUpperCase()];
    }
  }
}

const fieldsOf = (spec: KindSpec, records: readonly PlainRecord[]): Field[] =>
  [...spec.fields.values()].filter((field) => records.some((record) => record[field.key] !== undefined));

export function randomFilter(
  next: Random,
  { registry, records, me }: Askable,
  kind: string,
  depth = 0,
): Filter {
  const pick = pickFrom(next);
  const spec = registry[kind as keyof Registry];
  const own = records[kind] ?? [];
  const part = (): Filter => randomFilter(next, { registry, records, me }, kind, depth + 1);
  const luck = depth > 2 ? 1 : next();
  if (luck < 0.14) return { all: [part(), part()] };
  if (luck < 0.28) return { any: [part(), part()] };
  if (luck < 0.38) return { not: part() };
  const relations = [...spec.relations.values()].filter((relation) =>
    own.some((record) => record[relation.key] !== undefined),
  );
  if (luck < 0.55 && relations.length) {
    const { key: relation, to } = pick(relations);
    const where = next() < 0.8 ? randomFilter(next, { registry, records, me }, to, depth + 1) : undefined;
    return next() < 0.6
      ? { relation, has: pick(['any', 'all', 'none'] as const), where }
      : {
          relation,
          count: { op: pick(['is', 'atLeast', 'atMost'] as const), value: Math.floor(next() * 3) },
          where,
        };
  }
  const field = pick(fieldsOf(spec, own));
  const op = pick(OPERATORS[field.type]);
  const seen = own.map((record) => (record[field.key] ?? null) as PlainValue);
  const value = someValue(next, field, op, seen, me);
  return { field: field.key, op, ...(value === undefined ? {} : { value }) };
}

export function randomQuery(next: Random, askable: Askable, kind: keyof Registry): Query {
  const pick = pickFrom(next);
  const fields = fieldsOf(askable.registry[kind], askable.records[kind] ?? []);
  const grouped = fields.filter(({ type }) => isGroupable(type));
  const groupOf = (): Group => {
    const { key: field, type } = pick(grouped);
    if (type === 'day' || type === 'time')
      return { field, by: pick(['day', 'week', 'month', 'quarter', 'year'] as const) };
    if (type === 'text') return next() < 0.5 ? { field, by: 'letter' } : { field };
    return (type === 'number' || type === 'money') && next() < 0.7
      ? { field, by: { bands: [1, 10, 100_000] } }
      : { field };
  };
  const totals = fields.flatMap(({ key: field, type }) => TOTALS[type].map((how) => ({ how, field })));
  const sorted = fields.filter(({ type }) => isSortable(type));
  return {
    kind,
    ...(next() < 0.85 ? { filter: randomFilter(next, askable, kind) } : {}),
    groups: next() < 0.6 ? [groupOf(), ...(next() < 0.4 ? [groupOf()] : [])] : [],
    order: Array.from({ length: Math.floor(next() * 3) }, () => ({
      field: pick(sorted).key,
      direction: pick(['asc', 'desc'] as const),
    })),
    totals: Array.from({ length: Math.floor(next() * 4) }, () =>
      pick([...totals, { how: 'count' as const }]),
    ),
  };
}
