import { todayOf } from '../time';
import type { Asking, Field, KindSpec, RecordKind, Registry } from '../types';
import type { Cast, Rates, SqlField, SqlJoin, SqlKind, Storage } from './storage';

export interface Schema {
  registry: Registry;
  storage: Storage;
  asking: Asking;
  rates: Rates;
}

/** A statement with `$1`, `$2` … and their values. */
export interface Statement {
  text: string;
  values: unknown[];
}

/** The values of a statement; each stands in it as `$1`, `$2` …, the same value once. */
export class Binder {
  private readonly values: unknown[] = [];
  private readonly known = new Map<string, string>();

  bind(value: unknown, cast: string): string {
    const key = `${cast} ${JSON.stringify(value)}`;
    const before = this.known.get(key);
    if (before) return before;
    this.values.push(value);
    const made = `$${this.values.length}::${cast}`;
    this.known.set(key, made);
    return made;
  }

  /** A finished text with the values that stand in it; PostgreSQL takes no others. */
  statement(text: string): Statement {
    const used: number[] = [];
    const numbered = text.replace(/\$(\d+)(?=::)/g, (_, number: string) => {
      if (!used.includes(Number(number))) used.push(Number(number));
      return `$${used.indexOf(Number(number)) + 1}`;
    });
    return { text: numbered, values: used.map((number) => this.values[number - 1]) };
  }
}

const CASTS = {
  text: 'text',
  choice: 'text',
  several: 'text',
  user: 'uuid',
  number: 'numeric',
  money: 'numeric',
  day: 'date',
  time: 'timestamptz',
  yearly: 'text',
  flag: 'text',
  place: 'text',
  calculated: 'text',
} as const satisfies Record<Field['type'], Cast>;
export const castOf = (field: Field, { cast }: SqlField): Cast => cast ?? CASTS[field.type];

/** The records of one kind within a statement: their alias, and the joins that what is asked of them needs. */
export class Scope {
  readonly spec: KindSpec;
  private readonly stored: SqlKind;
  private readonly joined = new Map<string, string>();

  constructor(
    readonly schema: Schema,
    readonly binder: Binder,
    kind: RecordKind,
    readonly alias: string,
  ) {
    this.spec = schema.registry[kind];
    this.stored = schema.storage[kind];
  }

  get table(): string {
    return this.stored.table;
  }
  /** Which of its rows count, as a condition that begins with AND; empty for all of them. */
  get recordsOnly(): string {
    return this.stored.isRecord ? ` AND ${this.fill(this.stored.isRecord)}` : '';
  }
  get joins(): string {
    return [...this.joined.values()].join(' ');
  }

  /** @throws RangeError for a field that is not stored; `checkQuery` finds those first */
  known(key: string): { field: Field; stored: SqlField } {
    const [field, stored] = [this.spec.fields.get(key), this.stored.fields[key]];
    if (!field || !stored) throw new RangeError(`${this.spec.many} have no field “${key}”`);
    return { field, stored };
  }
  /** The same with its SQL, for whoever uses it: its joins and values are in the statement from here on. */
  field(key: string): { field: Field; stored: SqlField; sql: string } {
    const { field, stored } = this.known(key);
    return { field, stored, sql: this.fill(stored.sql, stored.joins) };
  }
  relation(key: string): { kind: RecordKind; from: string; on: string; alias: string } {
    const [relation, stored] = [this.spec.relations.get(key), this.stored.relations[key]];
    if (!relation || !stored) throw new RangeError(`${this.spec.many} are not related to “${key}”`);
    const alias = `${this.alias}_${key.slice(0, 3)}`;
    const fill = (sql: string): string =>
      this.fill(sql).replaceAll('{t}', alias).replaceAll('{x}', `${alias}x`);
    return { kind: relation.to, from: fill(stored.from), on: fill(stored.on), alias };
  }

  /** SQL with everything in it that stands for something else. */
  fill(sql: string, joins: readonly string[] = []): string {
    for (const name of joins) this.join(name);
    const { asking, rates } = this.schema;
    return sql
      .replaceAll('{r}', this.alias)
      .replace(/\{r\.(\w+)\}/g, (_, name: string) => `${this.alias}_${name}`)
      .replace(/\{worth: (.+?) in ([^}]+)\}/g, (_, minor: string, currency: string) =>
        this.worth(minor, currency, rates),
      )
      .replaceAll('{now}', () => this.binder.bind(asking.now, 'timestamptz'))
      .replaceAll('{today}', () => this.binder.bind(todayOf(asking), 'date'))
      .replaceAll('{zone}', () => this.binder.bind(asking.zone, 'text'))
      .replaceAll('{me}', () => this.binder.bind(asking.me, 'uuid'));
  }

  private worth(minor: string, currency: string, rates: Rates): string {
    const known = Object.entries(rates).map(([code, rate]) => {
      const same = rate === 1 ? minor : `round(${minor} * ${this.binder.bind(rate, 'numeric')})::int8`;
      return `WHEN ${this.binder.bind(code, 'text')} THEN ${same}`;
    });
    return known.length ? `(CASE ${currency} ${known.join(' ')} END)` : 'NULL::int8';
  }

  private join(name: string): void {
    if (this.joined.has(name)) return;
    const join: SqlJoin | undefined = this.stored.joins[name];
    if (!join) throw new RangeError(`${this.spec.many} have no join “${name}”`);
    for (const needed of join.needs ?? []) this.join(needed);
    this.joined.set(name, this.fill(join.sql));
  }
}
