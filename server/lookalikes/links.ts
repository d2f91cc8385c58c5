/** A column that points to a person or a company, and goes along when two records become one. */
export interface Link {
  table: string;
  column: string;
  /** What names a row, as SQL over `t`. */
  key: string;
  /** The further columns of which two rows of one record cannot be the same. */
  unique: readonly string[];
  /** The column that holds the other end, where a row that joins the two records themselves cannot stay. */
  across?: string;
}
export type RecordKind = 'person' | 'company';

const link = (table: string, column: string, unique: readonly string[] = [], key = 't.id::text'): Link => ({
  table,
  column,
  key,
  unique,
});

/** Every place that points to a record; a test holds this against the foreign keys of the database. */
export const LINKS: Record<RecordKind, readonly Link[]> = {
  person: [
    link('contact_points', 'person_id', ['kind', 'normalized']),
    link('claims', 'person_id'),
    link('leads', 'person_id'),
    link('deal_roles', 'person_id', ['deal_id', 'role']),
    link('tasks', 'person_id'),
    link('ledger_links', 'person_id', ['entry_id']),
    link('list_members', 'person_id', ['list_id']),
    link('calls', 'person_id'),
    link('form_submissions', 'person_id'),
    link('look_ups', 'person_id'),
    link('signals', 'person_id'),
    link('employments', 'person_id'),
    { ...link('relations', 'from_id', ['kind_id', 'to_id']), across: 'to_id' },
    { ...link('relations', 'to_id', ['kind_id', 'from_id']), across: 'from_id' },
    link('import_rows', 'person_id', [], "t.import_id::text || '/' || t.row"),
  ],
  company: [
    link('people', 'company_id'),
    link('claims', 'company_id'),
    link('leads', 'company_id'),
    link('deals', 'company_id'),
    link('tasks', 'company_id'),
    link('ledger_links', 'company_id', ['entry_id']),
    link('companies', 'parent_id'),
    link('look_ups', 'company_id'),
    link('employments', 'company_id'),
  ],
};
export const TABLE: Record<RecordKind, string> = { person: 'people', company: 'companies' };
