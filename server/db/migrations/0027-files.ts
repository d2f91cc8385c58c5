import { hidden, policy } from './visibility/kinds';

/** Files on records and tasks, each content kept once however many files hold it. */
export const name = '0027-files';

export const up = `
CREATE TABLE file_limits (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  most_bytes bigint NOT NULL DEFAULT 5368709120 CHECK (most_bytes > 0),
  most_file_bytes integer NOT NULL DEFAULT 26214400 CHECK (most_file_bytes BETWEEN 1 AND 67108864),
  refused text[] NOT NULL DEFAULT '{app,apk,bat,cmd,com,cpl,dll,exe,hta,jar,js,jse,lnk,msi,pif,ps1,reg,scr,vb,vbe,vbs,wsf,wsh}'
);
COMMENT ON COLUMN file_limits.most_bytes IS 'what all contents together may take';
COMMENT ON COLUMN file_limits.refused IS 'endings of names that are not taken, lower case';
INSERT INTO file_limits DEFAULT VALUES;
CREATE TABLE file_usage (bytes bigint NOT NULL);
COMMENT ON TABLE file_usage IS 'what all contents together take: one row, kept by a trigger';
INSERT INTO file_usage VALUES (0);

CREATE TABLE file_contents (
  sha256 text PRIMARY KEY CHECK (sha256 ~ '^[0-9a-f]{64}$'),
  size integer NOT NULL CHECK (size > 0),
  media_type text NOT NULL,
  preview text CHECK (preview IN ('image', 'pdf', 'text')),
  state text NOT NULL CHECK (state IN ('kept', 'waiting', 'clean', 'infected')),
  finding text NOT NULL DEFAULT '',
  words text NOT NULL DEFAULT '',
  found tsvector,
  added_at timestamptz NOT NULL
);
COMMENT ON TABLE file_contents IS 'what files hold, once by content; reached by the versions of files alone';
COMMENT ON COLUMN file_contents.state IS 'kept: no scanner was set up; waiting for one; clean; infected, with its finding';
COMMENT ON COLUMN file_contents.words IS 'the words of a text or PDF; empty until they are read';
CREATE INDEX file_contents_found ON file_contents USING gin (found) WHERE found IS NOT NULL;
CREATE INDEX file_contents_waiting ON file_contents (added_at) WHERE state = 'waiting';
CREATE TABLE file_parts (
  sha256 text NOT NULL REFERENCES file_contents ON DELETE CASCADE,
  position integer NOT NULL CHECK (position >= 0),
  bytes bytea NOT NULL CHECK (octet_length(bytes) <= 4194304),
  PRIMARY KEY (sha256, position)
);
ALTER TABLE file_parts ALTER COLUMN bytes SET STORAGE EXTERNAL;
CREATE FUNCTION file_usage_follow() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  UPDATE file_usage SET bytes = bytes + CASE TG_OP WHEN 'INSERT' THEN NEW.size ELSE -OLD.size END;
  RETURN NULL;
END $$;
CREATE TRIGGER file_usage_follow AFTER INSERT OR DELETE ON file_contents FOR EACH ROW EXECUTE FUNCTION file_usage_follow();

CREATE TABLE files (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  entry_id uuid REFERENCES ledger_entries ON DELETE CASCADE,
  task_id uuid REFERENCES tasks ON DELETE CASCADE,
  name text NOT NULL,
  number integer NOT NULL CHECK (number > 0),
  added_by uuid REFERENCES users,
  at timestamptz NOT NULL,
  names tsvector GENERATED ALWAYS AS (to_tsvector('simple', regexp_replace(folded(name), '[^[:alnum:]]+', ' ', 'g'))) STORED,
  CHECK (num_nonnulls(entry_id, task_id) = 1)
);
COMMENT ON COLUMN files.entry_id IS 'the ledger entry it came with, which says what it belongs to';
COMMENT ON COLUMN files.number IS 'that of its newest version';
COMMENT ON COLUMN files.at IS 'when its newest version was added';
CREATE INDEX files_entry ON files (entry_id);
CREATE INDEX files_task ON files (task_id) WHERE task_id IS NOT NULL;
CREATE INDEX files_added_by ON files (added_by);
CREATE INDEX files_at ON files (at DESC, id DESC);
CREATE INDEX files_names ON files USING gin (names);
${policy('files', `NOT ${hidden('r.id IN (files.entry_id, files.task_id)')}`, ['entry_id', 'task_id'])}
CREATE TABLE file_versions (
  id uuid PRIMARY KEY,
  file_id uuid NOT NULL REFERENCES files ON DELETE CASCADE,
  entry_id uuid REFERENCES ledger_entries ON DELETE SET NULL,
  number integer NOT NULL CHECK (number > 0),
  name text NOT NULL,
  sha256 text NOT NULL REFERENCES file_contents,
  added_by uuid REFERENCES users,
  at timestamptz NOT NULL,
  UNIQUE (file_id, number)
);
COMMENT ON COLUMN file_versions.entry_id IS 'the ledger entry that tells of it';
CREATE INDEX file_versions_content ON file_versions (sha256);
CREATE INDEX file_versions_entry ON file_versions (entry_id);
CREATE INDEX file_versions_added_by ON file_versions (added_by);
${policy('file_versions', 'EXISTS (SELECT 1 FROM files f WHERE f.id = file_versions.file_id)', ['entry_id'])}

CREATE FUNCTION files_found(asked tsquery, most integer) RETURNS TABLE (file_id uuid) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT id FROM (
    (SELECT f.id, f.at FROM files f WHERE f.names @@ asked ORDER BY f.at DESC LIMIT most)
    UNION
    (SELECT f.id, f.at FROM file_contents c JOIN file_versions v USING (sha256) JOIN files f ON f.id = v.file_id AND f.number = v.number
      WHERE c.found @@ asked ORDER BY f.at DESC LIMIT most)) every
$$;
COMMENT ON FUNCTION files_found IS 'files by the words of their name or of their newest version, seen or not: joined to files, only what one sees is left';
`;
