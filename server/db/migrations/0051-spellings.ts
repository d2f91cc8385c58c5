/**
 * Records are found by the other spellings of their names: in another script, by another scheme, without marks. How a word
 * is spelt is worked out by the program; words that wait for it stand in find_unspelt. Whoever changes how words are spelt
 * puts all of find_vocabulary there again.
 */
export const name = '0051-spellings';

/** What names in kana and Hangul have that had lost their voicing marks, or fallen apart into the letters of their syllables. */
const TAKEN_APART = '[\\u3040-\\u30ff\\uac00-\\ud7a3]';
/** A word of the vocabulary: in other scripts than the Latin one a letter or two are a name. */
const KNOWN = "(length(w) > 1 OR w ~ '[^\\u0001-\\u024f]')";
/** So many with the words of a search are looked at. */
const GATHERED = 2000;
const WERE_KNOWN = 'length(w) > 2';
const refreshed = (kind: string, table: string, column: string): string =>
  `SELECT find_refresh('${kind}', array_agg(id)) FROM ${table} WHERE ${column} ~ '${TAKEN_APART}' HAVING count(*) > 0;`;

export const up = `
CREATE OR REPLACE FUNCTION folded(text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE AS $$
  SELECT btrim(regexp_replace(translate(replace(replace(replace(replace(replace(
    lower(normalize(regexp_replace(normalize($1, NFKD), '[\\u0300-\\u036f]+', '', 'g'), NFC)),
    'ß', 'ss'), 'æ', 'ae'), 'œ', 'oe'), 'þ', 'th'), '''', ''), 'øđðłı’\`´', 'oddli'), '[^[:alnum:]]+', ' ', 'g'))
$$;

CREATE TABLE find_spellings (
  spelling text COLLATE "C" NOT NULL,
  word text COLLATE "C" NOT NULL
);
COMMENT ON TABLE find_spellings IS 'what words of find_vocabulary are found under besides: in Latin letters, and by the key under which the spellings of one name come together';
CREATE INDEX find_spellings_spelling ON find_spellings (spelling, word);
CREATE INDEX find_spellings_word ON find_spellings (word);
CREATE TABLE find_unspelt (word text COLLATE "C" NOT NULL);
COMMENT ON TABLE find_unspelt IS 'words of find_vocabulary whose spellings are not written down yet';

CREATE FUNCTION find_vocabulary_grown() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  INSERT INTO find_unspelt SELECT word FROM fresh;
  RETURN NULL;
END $$;
CREATE TRIGGER find_vocabulary_grown AFTER INSERT ON find_vocabulary REFERENCING NEW TABLE AS fresh
  FOR EACH STATEMENT EXECUTE FUNCTION find_vocabulary_grown();
CREATE FUNCTION find_vocabulary_shrunk() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  DELETE FROM find_spellings s USING gone g WHERE s.word = g.word;
  DELETE FROM find_unspelt s USING gone g WHERE s.word = g.word;
  RETURN NULL;
END $$;
CREATE TRIGGER find_vocabulary_shrunk AFTER DELETE ON find_vocabulary REFERENCING OLD TABLE AS gone
  FOR EACH STATEMENT EXECUTE FUNCTION find_vocabulary_shrunk();

DO $do$ BEGIN
  EXECUTE replace(pg_get_functiondef('find_refresh'::regproc), '${WERE_KNOWN}', $$${KNOWN}$$);
  EXECUTE replace(pg_get_functiondef('find_add'::regproc), '${WERE_KNOWN}', $$${KNOWN}$$);
END $do$;
INSERT INTO find_vocabulary SELECT DISTINCT w FROM (SELECT word AS w FROM find_words) f
 WHERE ${KNOWN} AND length(w) <= 2 AND w !~ '[@.]' AND NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = w);
INSERT INTO find_unspelt SELECT DISTINCT word FROM find_vocabulary EXCEPT SELECT word FROM find_unspelt;

UPDATE people SET name_key = (SELECT string_agg(w, ' ' ORDER BY w COLLATE "C") FROM unnest(string_to_array(folded(full_name), ' ')) w)
 WHERE full_name ~ '${TAKEN_APART}' AND erased_at IS NULL;
UPDATE companies SET name_key = folded(name) WHERE name ~ '${TAKEN_APART}';
-- What has the words is gathered before it is put in order: asked for the newest, PostgreSQL reads backwards through all of
-- them until it has enough. Few are found, of which it knows nothing.
CREATE OR REPLACE FUNCTION after_deals_found(asked tsquery, most integer) RETURNS TABLE (kind text, id uuid) LANGUAGE sql STABLE ROWS 10 SECURITY DEFINER SET search_path = public AS $$
  (SELECT 'project', f.id FROM (SELECT p.id, p.created_at AS at FROM projects p WHERE p.names @@ asked LIMIT ${GATHERED}) f ORDER BY f.at DESC LIMIT most)
  UNION ALL (SELECT 'case', f.id FROM (SELECT c.id, c.opened_at AS at FROM cases c WHERE c.names @@ asked LIMIT ${GATHERED}) f ORDER BY f.at DESC LIMIT most)
$$;
CREATE OR REPLACE FUNCTION files_found(asked tsquery, most integer) RETURNS TABLE (file_id uuid) LANGUAGE sql STABLE ROWS 10 SECURITY DEFINER SET search_path = public AS $$
  SELECT id FROM (
    (SELECT f.id, f.at FROM (SELECT f.id, f.at FROM files f WHERE f.names @@ asked LIMIT ${GATHERED}) f ORDER BY f.at DESC LIMIT most)
    UNION
    (SELECT f.id, f.at FROM (SELECT c.sha256 FROM file_contents c WHERE c.found @@ asked LIMIT ${GATHERED}) c JOIN file_versions v USING (sha256)
       JOIN files f ON f.id = v.file_id AND f.number = v.number ORDER BY f.at DESC LIMIT most)) every
$$;
${refreshed('d', 'deals', 'title')}
${refreshed('l', 'leads', 'title')}
`;
