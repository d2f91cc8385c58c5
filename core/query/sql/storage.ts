import type { RecordKind } from '../types';

/** What a value is compared as, where its type does not say so. */
export type Cast =
  'text' | 'uuid' | 'int4' | 'int8' | 'float4' | 'numeric' | 'date' | 'timestamp' | 'timestamptz' | 'bool';

/**
 * A field as SQL, in which `{r}` is the alias of the record, `{r.company}` that of its join `company`, and `{now}`,
 * `{today}`, `{zone}`, `{me}` are who asks and when. `{worth: d.amount in d.currency}` is money in the organisation's currency.
 */
export interface SqlField {
  sql: string;
  joins?: readonly string[];
  cast?: Cast;
  /** It is never null. */
  isRequired?: boolean;
  /** The same as a comparison, where an index has it: whether it is filled in, or a number over 0, or yes; and whether not. */
  yes?: string;
  no?: string;
  /** The same for one of the values of a choice. */
  only?: Readonly<Record<string, string>>;
  /**
   * Of a field that says a place: the id by which it stands in the table `places`, and which rows of that, as `g`, whoever
   * asks may see.
   */
  place?: { key: string; seen: string };
  /** What joins those need. */
  knownJoins?: readonly string[];
}

export interface SqlJoin {
  sql: string;
  needs?: readonly string[];
}

/** Records of another kind, as `{t}`, that belong to `{r}`; `{x}` is free for a table between. */
export interface SqlRelation {
  from: string;
  on: string;
}

export interface SqlKind {
  table: string;
  /** Which rows of the table are records at all; every one where nothing is said. */
  isRecord?: string;
  joins: Readonly<Record<string, SqlJoin>>;
  fields: Readonly<Record<string, SqlField>>;
  relations: Readonly<Record<string, SqlRelation>>;
  /** The id of the record that a field names. */
  links?: Readonly<Record<string, string>>;
}
export type Storage = Readonly<Record<RecordKind, SqlKind>>;

/** Who asks, and what the database needs to know besides. */
export interface Rates {
  /** How much one minor unit of each currency is in minor units of the organisation's. */
  [currency: string]: number;
}
