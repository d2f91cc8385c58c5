import type { Reference, TableRule } from '../db/tables';

export type RecordKind = 'person' | 'company';
export const TABLE = { person: 'people', company: 'companies' } as const satisfies Record<RecordKind, string>;

/** A column that points to a person or a company, and goes along when two records become one. */
export interface Link extends Reference {
  table: string;
  /** What names a row, as SQL over `t`. */
  key: string;
}

/** Every place that points to a record of a kind, as the capabilities say of their tables. */
export const linksTo = (tables: readonly TableRule[], kind: RecordKind): Link[] =>
  tables.flatMap(({ table, key = 't.id::text', refers = [] }) =>
    refers.filter(({ to }) => to === TABLE[kind]).map((reference) => ({ ...reference, table, key })),
  );
