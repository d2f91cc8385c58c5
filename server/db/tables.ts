/** The records that other tables point to. */
export type RecordTable = 'people' | 'companies' | 'leads' | 'deals';

/** A column that points to a record. */
export interface Reference {
  column: string;
  to: RecordTable;
  /** The further columns of which two rows of one record cannot be the same; where two records become one, one row stays. */
  unique?: readonly string[];
  /** The column that holds the other end, where a row that joins the two records themselves cannot stay. */
  across?: string;
}

/** What a capability says of each of its tables; merging, undo, the undo of imports and erasing go by it. */
export interface TableRule {
  table: string;
  /**
   * `record`: a record of its own. `work`: somebody's work; what it points to is in use. `part`: belongs to the record it
   * points to and goes with it. `note`: only notes that something happened; nothing is built on it, and it goes along.
   * `setting`: how the house works. `ground`: bookkeeping of the program.
   */
  role: 'record' | 'work' | 'part' | 'note' | 'setting' | 'ground';
  refers?: readonly Reference[];
  /** What names a row, as SQL over `t`; its id where nothing is said. */
  key?: string;
  /** When a person is erased: the row goes, or only its pointer to them, or it stays, emptied by `privacy/statements.ts`. */
  erase?: 'delete' | 'unlink' | 'keep';
  /** Whether a person who asks for what is known of them gets it. */
  export?: boolean;
}

const REFERS = {
  person: { column: 'person_id', to: 'people' },
  company: { column: 'company_id', to: 'companies' },
  lead: { column: 'lead_id', to: 'leads' },
  deal: { column: 'deal_id', to: 'deals' },
} as const;

/** The usual pointers: `person_id`, `company_id`, `lead_id`, `deal_id`. */
export const refersTo = (...records: readonly (keyof typeof REFERS)[]): Reference[] =>
  records.map((record) => REFERS[record]);

/** Tables of one role, of which there is nothing else to say. */
export const plain = (role: 'setting' | 'ground' | 'work', ...tables: readonly string[]): TableRule[] =>
  tables.map((table) => ({ table, role }));
