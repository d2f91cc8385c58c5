/** Many records can be changed at once, in the background, and all of it taken back. */
export const name = '0034-bulk-changes';

/** The words of an address that may name a place: no numbers, and none of one or two letters. */
const words = (which: string): string =>
  `FROM fresh t, unnest(string_to_array(folded(t.address), ' ')) w WHERE ${which}t.address IS NOT NULL AND length(w) > 2 AND w !~ '[0-9]'`;

/** Inserts leave the search words to find_add() while a transaction says so. */
const LATER = "current_setting('emporikon.find_later', true) = 'on'";

export const up = `
-- Which of many rows a statement changed in some columns. Planned each time: a plan made for one row compares a thousand
-- rows with each other, and one that looks for a first difference reads them all where there is none.
CREATE FUNCTION changed_in(columns text[]) RETURNS text LANGUAGE sql IMMUTABLE AS $$
  SELECT format('SELECT array_agg(n.id) FROM fresh n JOIN gone o USING (id) WHERE (%s) IS DISTINCT FROM (%s)',
                string_agg('n.' || quote_ident(c), ', '), string_agg('o.' || quote_ident(c), ', ')) FROM unnest(columns) c
$$;
CREATE OR REPLACE FUNCTION find_upkeep() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE ids uuid[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    IF ${LATER} THEN RETURN NULL; END IF;
    SELECT array_agg(id) INTO ids FROM fresh;
  ELSIF TG_OP = 'DELETE' THEN
    DELETE FROM find_words f USING gone g WHERE f.id = g.id;
    DELETE FROM find_records f USING gone g WHERE f.id = g.id;
    RETURN NULL;
  ELSE
    -- The columns a record is found by are the arguments after its kind.
    EXECUTE changed_in(TG_ARGV[1:]) INTO ids;
  END IF;
  IF ids IS NOT NULL THEN PERFORM find_refresh(TG_ARGV[0]::"char", ids); END IF;
  RETURN NULL;
END $$;
-- Only the words that came or went are written: whoever gets a tag keeps the words of their name.
CREATE OR REPLACE FUNCTION find_refresh(k "char", ids uuid[]) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  WITH said AS MATERIALIZED (
    SELECT p.id, p.full_name AS name, p.seen_by, array_remove(string_to_array(p.name_key, ' ') || string_to_array(folded(array_to_string(p.tags, ' ')), ' ')
             || ARRAY(SELECT unnest(ARRAY[k.normalized, split_part(k.normalized, '@', 2)]) FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email'), '') AS words
      FROM unnest(ids) u (id) JOIN people p USING (id) WHERE k = 'p'
    UNION ALL
    SELECT c.id, NULL, c.seen_by, array_remove(string_to_array(folded(c.name) || ' ' || c.name_key, ' ') || coalesce(c.domain, ''), '')
      FROM unnest(ids) u (id) JOIN companies c USING (id) WHERE k = 'c'
    UNION ALL
    SELECT d.id, NULL, d.seen_by, array_remove(string_to_array(folded(d.title), ' '), '') FROM unnest(ids) u (id) JOIN deals d USING (id) WHERE k = 'd'
    UNION ALL
    SELECT l.id, NULL, l.seen_by, array_remove(string_to_array(folded(l.title), ' '), '') FROM unnest(ids) u (id) JOIN leads l USING (id) WHERE k = 'l'),
  record AS (
    INSERT INTO find_records AS r (id, kind, words, seen_by) SELECT id, k, array_to_tsvector(words), seen_by FROM said
    ON CONFLICT (id) DO UPDATE SET words = excluded.words, seen_by = excluded.seen_by WHERE r.words <> excluded.words),
  -- A word that goes and comes in one statement would find itself there: those that stay are told apart first.
  known AS MATERIALIZED (
    SELECT f.ctid AS place, f.id, f.word, s.id IS NOT NULL AND f.word = ANY (s.words)
             AND f.name IS NOT DISTINCT FROM s.name AND f.seen_by IS NOT DISTINCT FROM s.seen_by AS stays
      FROM unnest(ids) u (id) JOIN find_words f ON f.id = u.id LEFT JOIN said s ON s.id = u.id),
  gone AS (DELETE FROM find_words f USING known n WHERE f.ctid = n.place AND NOT n.stays),
  put AS (
    INSERT INTO find_words (kind, word, id, name, seen_by)
    SELECT DISTINCT k, w COLLATE "C", s.id, s.name, s.seen_by FROM said s, unnest(s.words) w
     WHERE NOT EXISTS (SELECT 1 FROM known n WHERE n.id = s.id AND n.word = w COLLATE "C" AND n.stays)),
  plain AS (SELECT DISTINCT w COLLATE "C" AS word FROM said, unnest(words) w WHERE length(w) > 2 AND w !~ '[@.]')
  INSERT INTO find_vocabulary SELECT word FROM plain WHERE NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = plain.word)
$$;
CREATE OR REPLACE FUNCTION places_upkeep() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE ids uuid[];
BEGIN
  IF TG_OP = 'DELETE' THEN
    DELETE FROM find_places f USING gone g WHERE f.id = g.id;
    RETURN NULL;
  ELSIF TG_OP = 'INSERT' THEN
    INSERT INTO find_places SELECT DISTINCT TG_ARGV[0]::"char", w, t.id ${words('')};
    RETURN NULL;
  END IF;
  EXECUTE changed_in(ARRAY['address']) INTO ids;
  IF ids IS NULL THEN RETURN NULL; END IF;
  DELETE FROM find_places f USING unnest(ids) u (id) WHERE f.id = u.id;
  INSERT INTO find_places SELECT DISTINCT TG_ARGV[0]::"char", w, t.id ${words('t.id = ANY (ids) AND ')};
  RETURN NULL;
END $$;

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
