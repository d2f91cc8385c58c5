/** What many records at once showed to be slow: search words are written once and in order, no index stands twice, and an event is judged by key. */
export const name = '0016-bulk-load';

/** Inserts leave the search words to find_add() while a transaction says so. */
const LATER = "current_setting('emporikon.find_later', true) = 'on'";

export const up = `
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
    SELECT array_agg(n.id) INTO ids FROM fresh n JOIN gone o USING (id)
     WHERE EXISTS (SELECT 1 FROM unnest(TG_ARGV[1:]) c WHERE to_jsonb(n) -> c IS DISTINCT FROM to_jsonb(o) -> c);
  END IF;
  IF ids IS NOT NULL THEN PERFORM find_refresh(TG_ARGV[0]::"char", ids); END IF;
  RETURN NULL;
END $$;

CREATE OR REPLACE FUNCTION find_contacts() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE ids uuid[];
BEGIN
  IF TG_OP = 'INSERT' THEN
    IF ${LATER} THEN RETURN NULL; END IF;
    SELECT array_agg(DISTINCT person_id) INTO ids FROM fresh WHERE kind = 'email';
  ELSIF TG_OP = 'DELETE' THEN SELECT array_agg(DISTINCT person_id) INTO ids FROM gone WHERE kind = 'email';
  ELSE
    SELECT array_agg(DISTINCT one) INTO ids
      FROM fresh n JOIN gone o USING (id), unnest(ARRAY[n.person_id, o.person_id]) one
     WHERE n.kind = 'email' AND (n.normalized, n.person_id) IS DISTINCT FROM (o.normalized, o.person_id);
  END IF;
  IF ids IS NOT NULL THEN PERFORM find_refresh('p', ids); END IF;
  RETURN NULL;
END $$;

CREATE FUNCTION find_add(people_ids uuid[]) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
  WITH said AS MATERIALIZED (
    SELECT p.id, p.full_name AS name, p.seen_by, array_remove(string_to_array(p.name_key, ' ') || string_to_array(folded(array_to_string(p.tags, ' ')), ' ')
             || ARRAY(SELECT unnest(ARRAY[k.normalized, split_part(k.normalized, '@', 2)]) FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email'), '') AS words
      FROM unnest(people_ids) u (id) JOIN people p USING (id)),
  record AS (INSERT INTO find_records (id, kind, words, seen_by) SELECT id, 'p', array_to_tsvector(words), seen_by FROM said),
  put AS (
    INSERT INTO find_words (kind, word, id, name, seen_by)
    SELECT DISTINCT 'p'::"char", w COLLATE "C" AS word, id, name, seen_by FROM said, unnest(words) w ORDER BY 2, 4, 3),
  plain AS (SELECT DISTINCT w COLLATE "C" AS word FROM said, unnest(words) w WHERE length(w) > 2 AND w !~ '[@.]')
  INSERT INTO find_vocabulary SELECT word FROM plain WHERE NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = plain.word) ORDER BY word
$$;
COMMENT ON FUNCTION find_add IS 'search words of people made in this transaction while emporikon.find_later is on';

-- Addresses and numbers have indexes of their own; names of people too.
DROP INDEX contact_points_normalized;
CREATE INDEX contact_points_links ON contact_points (kind, normalized) WHERE kind NOT IN ('email', 'phone');
DROP INDEX find_words_word;
DROP INDEX find_words_name;
-- Who may see the record stands in the index too: its words are met there, without the table.
CREATE INDEX find_words_word ON find_words (kind, word, id) INCLUDE (seen_by) WHERE kind <> 'p';
CREATE INDEX find_words_name ON find_words (word, name, id) INCLUDE (seen_by) WHERE kind = 'p';

-- Every id an event speaks of is looked up by key: compared as text, each event read all that is restricted.
CREATE OR REPLACE FUNCTION event_is_hidden(changes jsonb) RETURNS boolean LANGUAGE sql STABLE AS $$
  SELECT EXISTS (SELECT 1 FROM restricted) AND EXISTS (
    SELECT 1 FROM (
      SELECT CASE WHEN s.value ~ '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' THEN s.value::uuid END AS id FROM (
        SELECT c ->> 'id' AS value FROM jsonb_array_elements(changes) c
        UNION SELECT v.value FROM jsonb_array_elements(changes) c, jsonb_each_text(coalesce(nullif(c -> 'after', 'null'), '{}')) v WHERE v.key LIKE '%Id'
        UNION SELECT v.value FROM jsonb_array_elements(changes) c, jsonb_each_text(coalesce(nullif(c -> 'before', 'null'), '{}')) v WHERE v.key LIKE '%Id') s
      OFFSET 0) ids
     WHERE (SELECT r.seen_by <> ALL ((SELECT my_audiences())::integer[]) FROM restricted r WHERE r.id = ids.id))
$$;

DROP TRIGGER contact_points_hidden_twin ON contact_points;
CREATE TRIGGER contact_points_hidden_twin BEFORE INSERT OR UPDATE ON contact_points FOR EACH ROW WHEN (NEW.kind = 'email') EXECUTE FUNCTION contact_points_hidden_twin();
`;
