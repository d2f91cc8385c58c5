/** The file of an import in pieces, so that a large one is never sent or loaded as a whole. */
export const name = '0010-import-files';

export const up = `
CREATE TABLE import_parts (
  import_id uuid NOT NULL REFERENCES imports ON DELETE CASCADE,
  position integer NOT NULL CHECK (position >= 0),
  bytes bytea NOT NULL CHECK (octet_length(bytes) <= 4194304),
  PRIMARY KEY (import_id, position)
);
ALTER TABLE import_parts ALTER COLUMN bytes SET STORAGE EXTERNAL;
COMMENT ON TABLE import_parts IS 'the file of an import in pieces, so that a large one never passes through a server as a whole';
INSERT INTO import_parts (import_id, position, bytes)
  SELECT id, n, substring(raw FROM n * 4194304 + 1 FOR 4194304)
    FROM imports, generate_series(0, (octet_length(raw) - 1) / 4194304) n;
ALTER TABLE imports DROP COLUMN raw;
`;
