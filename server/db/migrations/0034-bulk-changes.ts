/** Many records can be changed at once, in the background, and all of it taken back. */
export const name = '0034-bulk-changes';

export const up = `
CREATE TABLE bulk_changes (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('person', 'company', 'lead', 'deal')),
  steps jsonb NOT NULL,
  label text NOT NULL,
  state text NOT NULL CHECK (state IN ('previewed', 'running', 'paused', 'done', 'undoing', 'undone', 'failed')),
  total integer NOT NULL,
  done integer NOT NULL DEFAULT 0,
  counts jsonb NOT NULL DEFAULT '{}',
  trouble text NOT NULL DEFAULT '',
  created_by uuid NOT NULL REFERENCES users,
  created_at timestamptz NOT NULL,
  finished_at timestamptz
);
COMMENT ON TABLE bulk_changes IS 'what was done to many records at once, by whom, and how far it has come';
CREATE INDEX bulk_changes_mine ON bulk_changes (created_by, created_at DESC);
CREATE INDEX bulk_changes_newest ON bulk_changes (created_at DESC);
CREATE TABLE bulk_rows (
  bulk_id uuid NOT NULL REFERENCES bulk_changes ON DELETE CASCADE,
  row integer NOT NULL,
  record_id uuid NOT NULL,
  outcome text CHECK (outcome IN ('changed', 'stayed', 'refused', 'kept', 'undone')),
  why text NOT NULL DEFAULT '',
  before jsonb,
  after jsonb,
  made jsonb,
  entry_id uuid,
  PRIMARY KEY (bulk_id, row)
);
COMMENT ON TABLE bulk_rows IS 'the records of such a change in the order in which they are done, and what each was before';
COMMENT ON COLUMN bulk_rows.made IS 'rows beside the record that the change made or took away';
CREATE INDEX bulk_rows_open ON bulk_rows (bulk_id, row) WHERE outcome IS NULL;
`;
