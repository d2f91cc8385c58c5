export const RECORD_KINDS = [
  'person',
  'company',
  'lead',
  'deal',
  'task',
  'project',
  'case',
  'entry',
  'capture',
] as const;
export type RecordKind = (typeof RECORD_KINDS)[number];

/**
 * `day` is a calendar day, `time` an instant, `yearly` a day that comes back every year, with or without its first year,
 * `place` a latitude and a longitude with a comma between, `calculated` what is worked out of a record when it is shown, and
 * not asked of all of them.
 */
export type FieldType =
  | 'text'
  | 'choice'
  | 'several'
  | 'user'
  | 'number'
  | 'money'
  | 'day'
  | 'time'
  | 'yearly'
  | 'flag'
  | 'place'
  | 'calculated';

export interface Option {
  value: string;
  label: string;
  /** Of a term of the organisation's own: the value it counts as. */
  countsAs?: string;
}

/** A field that records of one kind can be asked about. */
export interface Field {
  key: string;
  label: string;
  type: FieldType;
  /** What else it is called. */
  words?: readonly string[];
  unit?: string;
  /** All values there are, where they are few and fixed. */
  options?: readonly Option[];
  /** It is calculated for each record, and is not a field somebody fills in. */
  isReckoned?: boolean;
}

export interface Relation {
  key: string;
  label: string;
  to: RecordKind;
  /** Whether there can be more than one. */
  isMany: boolean;
}

/** What can be asked of records of one kind. */
export interface KindSpec {
  kind: RecordKind;
  /** "person", "people". */
  one: string;
  many: string;
  /** The field that holds what a record is called. */
  name: string;
  fields: ReadonlyMap<string, Field>;
  relations: ReadonlyMap<string, Relation>;
}
export type Registry = Readonly<Record<RecordKind, KindSpec>>;

export type Unit = 'day' | 'week' | 'month' | 'quarter' | 'year';

/**
 * A stretch of days: one day; this week, last month or next year (`shift` 0, -1, 1), counted from today; the unit that
 * holds a day (June 2026 is the month of 2026-06-01); or the one day that is so many units away from today.
 */
export type When =
  | { day: string }
  | { unit: Unit; shift: number }
  | { unit: Unit; day: string }
  | { away: number; unit: Unit };

export type Operator =
  | 'is'
  | 'isNot'
  | 'contains'
  | 'startsWith'
  | 'hasAny'
  | 'hasAll'
  | 'hasNone'
  | 'under'
  | 'atMost'
  | 'over'
  | 'atLeast'
  | 'in'
  | 'before'
  | 'after'
  | 'since'
  | 'until'
  | 'between'
  | 'inside'
  | 'near'
  | 'empty'
  | 'filled';

export type Value = string | number | boolean | When | readonly (string | number | When)[];

/** `inside` wants the corners of an area, longitude before latitude, in one list; `near` a longitude, a latitude and kilometres. */
export interface Comparison {
  field: string;
  op: Operator;
  value?: Value | undefined;
}
/** `all` wants at least one that is related, and all of those. */
export interface RelationHas {
  relation: string;
  has: 'any' | 'all' | 'none';
  where?: Filter | undefined;
}
export interface RelationCount {
  relation: string;
  count: { op: 'is' | 'atLeast' | 'atMost'; value: number };
  where?: Filter | undefined;
}
export type Filter =
  | { all: readonly Filter[] }
  | { any: readonly Filter[] }
  | { not: Filter }
  | Comparison
  | RelationHas
  | RelationCount;

/** Days and times are grouped by a unit, texts by their first letter, numbers by bands that begin at these edges. */
export interface Group {
  field: string;
  by?: Unit | 'letter' | { bands: readonly number[] } | undefined;
}
export type How = 'count' | 'sum' | 'mean' | 'median' | 'least' | 'most';
export interface Total {
  how: How;
  /** Everything but a count is of a field. */
  field?: string | undefined;
}
export interface Order {
  field: string;
  direction: 'asc' | 'desc';
}

/** A question: which records, in which groups, in which order, and what is shown of them. */
export interface Query {
  kind: RecordKind;
  filter?: Filter | undefined;
  groups?: readonly Group[] | undefined;
  order?: readonly Order[] | undefined;
  totals?: readonly Total[] | undefined;
  columns?: readonly string[] | undefined;
}

/** Who asks, and when. */
export interface Asking {
  /** ISO instant. */
  now: string;
  /** IANA name: in it days begin. */
  zone: string;
  /** What `me` and `myTeam` stand for, as users stand in the records. */
  me: string | null;
  team: readonly string[];
}

export type PlainValue = string | number | boolean | readonly string[] | null;
/** A record as plain data: fields by their key, related records by the key of the relation. */
export interface PlainRecord {
  id: string;
  [key: string]: PlainValue | PlainRecord | readonly PlainRecord[] | undefined;
}

/** The value of each group from the outermost in; null is what has none. With fewer than all groups it is a subtotal. */
export interface GroupTotals {
  keys: (string | null)[];
  count: number;
  totals: (number | string | null)[];
}
