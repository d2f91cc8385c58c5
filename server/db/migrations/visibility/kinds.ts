/** A kind of record: whose it is, and which of its columns name what it belongs to. */
export interface Kind {
  table: string;
  owners: readonly string[];
  parents: readonly string[];
  /** Further records it belongs to, as SQL over `t` that gives their ids. */
  further?: string;
  /** Colleagues who see it as those do whose it is, as SQL over `t` that gives their ids. */
  asked?: string;
}

/** In the order in which one decides about the next. */
export const KINDS: readonly Kind[] = [
  { table: 'companies', owners: ['owner_id'], parents: [] },
  { table: 'people', owners: ['owner_id'], parents: ['company_id'] },
  { table: 'leads', owners: ['owner_id'], parents: ['person_id', 'company_id'] },
  { table: 'deals', owners: ['owner_id'], parents: ['company_id', 'lead_id'] },
  {
    table: 'captures',
    owners: ['captured_by'],
    parents: [],
    further: `SELECT unnest(ARRAY[k.person_id, k.company_id]) FROM claims k WHERE k.capture_id = t.id
              UNION ALL SELECT s.person_id FROM calls s WHERE s.capture_id = t.id`,
  },
  {
    table: 'ledger_entries',
    owners: ['actor_id'],
    parents: ['capture_id'],
    further: `SELECT unnest(ARRAY[k.person_id, k.company_id, k.lead_id, k.deal_id]) FROM ledger_links k WHERE k.entry_id = t.id`,
  },
  {
    table: 'tasks',
    owners: ['assignee_id', 'created_by'],
    parents: ['person_id', 'company_id', 'lead_id', 'deal_id'],
  },
];

/** The records of a kind that belong to one of some others: `$ids`. */
export const CHILDREN: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  companies: {
    people: 'SELECT id FROM people WHERE company_id = ANY (ids)',
    leads: 'SELECT id FROM leads WHERE company_id = ANY (ids)',
    deals: 'SELECT id FROM deals WHERE company_id = ANY (ids)',
    captures:
      'SELECT DISTINCT capture_id FROM claims WHERE company_id = ANY (ids) AND capture_id IS NOT NULL',
    ledger_entries: 'SELECT DISTINCT entry_id FROM ledger_links WHERE company_id = ANY (ids)',
    tasks: 'SELECT id FROM tasks WHERE company_id = ANY (ids)',
  },
  people: {
    leads: 'SELECT id FROM leads WHERE person_id = ANY (ids)',
    captures: `SELECT DISTINCT capture_id FROM claims WHERE person_id = ANY (ids) AND capture_id IS NOT NULL
               UNION SELECT capture_id FROM calls WHERE person_id = ANY (ids) AND capture_id IS NOT NULL`,
    ledger_entries: 'SELECT DISTINCT entry_id FROM ledger_links WHERE person_id = ANY (ids)',
    tasks: 'SELECT id FROM tasks WHERE person_id = ANY (ids)',
  },
  leads: {
    deals: 'SELECT id FROM deals WHERE lead_id = ANY (ids)',
    ledger_entries: 'SELECT DISTINCT entry_id FROM ledger_links WHERE lead_id = ANY (ids)',
    tasks: 'SELECT id FROM tasks WHERE lead_id = ANY (ids)',
  },
  deals: {
    ledger_entries: 'SELECT DISTINCT entry_id FROM ledger_links WHERE deal_id = ANY (ids)',
    tasks: 'SELECT id FROM tasks WHERE deal_id = ANY (ids)',
  },
  captures: { ledger_entries: 'SELECT id FROM ledger_entries WHERE capture_id = ANY (ids)' },
  ledger_entries: {},
  tasks: {},
};

/** Tables whose rows say something of records, and the columns that name them. */
export const PARTS: Readonly<Record<string, readonly string[]>> = {
  contact_points: ['person_id'],
  claims: ['person_id', 'company_id', 'capture_id'],
  intents: ['capture_id'],
  deal_roles: ['person_id', 'deal_id'],
  deal_states: ['deal_id'],
  deal_lines: ['deal_id'],
  quotes: ['deal_id', 'entry_id'],
  list_members: ['person_id'],
  form_submissions: ['person_id', 'capture_id'],
  import_rows: ['person_id'],
  lead_answers: ['lead_id', 'capture_id'],
  lead_scores: ['lead_id'],
  ledger_links: ['entry_id', 'person_id', 'company_id', 'lead_id', 'deal_id'],
  look_ups: ['person_id', 'company_id'],
  signals: ['person_id'],
  employments: ['person_id', 'company_id'],
  relations: ['from_id', 'to_id'],
  worked_with: ['record_id'],
  kept_apart: ['one', 'other'],
  merges: ['survivor_id', 'merged_id'],
  outbox: ['about_id'],
};

/** What may stand there once only, and of which record it is: where that one is hidden, the writer is told so. */
export const TWINS: Readonly<Record<string, { of: string; kind: string; same: string }>> = {
  contact_points: {
    of: 'person_id',
    kind: 'people',
    same: "t.kind = 'email' AND NEW.kind = 'email' AND t.normalized = NEW.normalized AND t.id <> NEW.id",
  },
  companies: { of: 'id', kind: 'companies', same: 't.domain = NEW.domain AND t.id <> NEW.id' },
  captures: { of: 'id', kind: 'captures', same: 't.sha256 = NEW.sha256 AND t.id <> NEW.id' },
  ledger_entries: {
    of: 'id',
    kind: 'ledger_entries',
    same: 't.message_id = NEW.message_id AND t.id <> NEW.id',
  },
};

export const restrictedAmong = (ids: string): string =>
  `EXISTS (SELECT 1 FROM restricted r WHERE r.id IN (${ids}))`;
export const columnsOf = (row: string, columns: readonly string[]): string =>
  columns.map((column) => `${row}.${column}`).join(', ');
export const SEEN = 'seen_by IS NULL OR seen_by = ANY ((SELECT my_audiences())::integer[])';
export const hidden = (which: string): string =>
  `EXISTS (SELECT 1 FROM restricted r WHERE ${which} AND r.seen_by <> ALL ((SELECT my_audiences())::integer[]))`;

export const hiddenAmong = (table: string, columns: readonly string[]): string =>
  hidden(`r.id IN (${columnsOf(table, columns)})`);
/** Rows that somebody sees, and may write: only such as name no record that they cannot see. */
export const policy = (table: string, seen: string, names: readonly string[]): string => `
ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON ${table} TO emporikon_member USING ((SELECT has_reader()) AND (${seen}))
  WITH CHECK (${names.length ? `NOT ${hiddenAmong(table, names)}` : 'true'});`;
