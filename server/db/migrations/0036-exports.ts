/** What a view shows is handed over as a file, made in the background where it is large. */
export const name = '0036-exports';

export const up = `
CREATE TABLE exports (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  owner_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  label text NOT NULL,
  format text NOT NULL,
  query jsonb NOT NULL,
  date_field text,
  state text NOT NULL CHECK (state IN ('running', 'done', 'failed')),
  total integer NOT NULL,
  done integer NOT NULL DEFAULT 0,
  cursor text,
  parts integer NOT NULL DEFAULT 0,
  size bigint NOT NULL DEFAULT 0,
  trouble text NOT NULL DEFAULT '',
  created_at timestamptz NOT NULL,
  finished_at timestamptz
);
COMMENT ON COLUMN exports.cursor IS 'where the reading goes on; null at the beginning';
CREATE INDEX exports_owner ON exports (owner_id, created_at DESC, id);
CREATE TABLE export_parts (
  export_id uuid NOT NULL REFERENCES exports ON DELETE CASCADE,
  position integer NOT NULL,
  bytes bytea NOT NULL,
  PRIMARY KEY (export_id, position)
);
ALTER TABLE exports ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON exports TO emporikon_member USING ((SELECT has_reader()) AND owner_id = (SELECT reader()));
ALTER TABLE export_parts ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON export_parts TO emporikon_member USING (EXISTS (SELECT 1 FROM exports e WHERE e.id = export_id));
`;
