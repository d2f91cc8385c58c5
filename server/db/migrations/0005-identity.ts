/**
 * Who is who: the words by which records are found and recognised, kept in step by triggers in the transaction that
 * changes the record; look-alikes, merges with their forwarding ids, weights of matching, and inactive people.
 */
export const name = '0005-identity';

export const up = `
ALTER TABLE people ADD COLUMN inactive_since timestamptz;
ALTER TABLE companies
  ADD COLUMN kind text NOT NULL DEFAULT 'firm' CHECK (kind IN ('firm', 'household')),
  ADD COLUMN parent_id uuid REFERENCES companies CHECK (parent_id <> id);
CREATE INDEX companies_parent ON companies (parent_id) WHERE parent_id IS NOT NULL;
CREATE INDEX companies_phone ON companies (phone) WHERE phone IS NOT NULL;
CREATE INDEX people_full_name ON people (full_name, (id::text));
CREATE INDEX people_active_name ON people (full_name, (id::text)) WHERE inactive_since IS NULL;
CREATE INDEX contact_points_phone ON contact_points (normalized COLLATE "C", person_id) WHERE kind = 'phone';
CREATE INDEX contact_points_phone_end ON contact_points (reverse(normalized) COLLATE "C", person_id) WHERE kind = 'phone';
CREATE INDEX companies_phone_end ON companies (reverse(phone) COLLATE "C") WHERE phone IS NOT NULL;
DROP INDEX people_name_trgm, companies_name_trgm;

CREATE FUNCTION folded(text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE AS $$
  SELECT btrim(regexp_replace(translate(replace(replace(replace(replace(replace(
    lower(regexp_replace(normalize($1, NFKD), '[\\u0300-\\u036f]+', '', 'g')),
    'ß', 'ss'), 'æ', 'ae'), 'œ', 'oe'), 'þ', 'th'), '''', ''), 'øđðłı’\`´', 'oddli'), '[^[:alnum:]]+', ' ', 'g'))
$$;

CREATE TABLE find_records (
  id uuid PRIMARY KEY,
  kind "char" NOT NULL,
  words tsvector NOT NULL
);
COMMENT ON TABLE find_records IS 'what each record can be found by: folded words of names, tags and titles, addresses, domains; kind p person, c company, d deal, l lead';
CREATE TABLE find_words (
  kind "char" NOT NULL,
  word text COLLATE "C" NOT NULL,
  id uuid NOT NULL
);
CREATE TABLE find_vocabulary (word text COLLATE "C" NOT NULL);

CREATE FUNCTION find_refresh(k "char", ids uuid[]) RETURNS void LANGUAGE sql AS $$
  WITH said AS MATERIALIZED (
    SELECT p.id, array_remove(string_to_array(p.name_key, ' ') || string_to_array(folded(array_to_string(p.tags, ' ')), ' ')
             || ARRAY(SELECT unnest(ARRAY[k.normalized, split_part(k.normalized, '@', 2)]) FROM contact_points k WHERE k.person_id = p.id AND k.kind = 'email'), '') AS words
      FROM unnest(ids) u (id) JOIN people p USING (id) WHERE k = 'p'
    UNION ALL
    SELECT c.id, array_remove(string_to_array(folded(c.name) || ' ' || c.name_key, ' ') || coalesce(c.domain, ''), '')
      FROM unnest(ids) u (id) JOIN companies c USING (id) WHERE k = 'c'
    UNION ALL
    SELECT d.id, array_remove(string_to_array(folded(d.title), ' '), '') FROM unnest(ids) u (id) JOIN deals d USING (id) WHERE k = 'd'
    UNION ALL
    SELECT l.id, array_remove(string_to_array(folded(l.title), ' '), '') FROM unnest(ids) u (id) JOIN leads l USING (id) WHERE k = 'l'),
  record AS (
    INSERT INTO find_records AS r (id, kind, words) SELECT id, k, array_to_tsvector(words) FROM said
    ON CONFLICT (id) DO UPDATE SET words = excluded.words WHERE r.words <> excluded.words),
  gone AS (DELETE FROM find_words f USING unnest(ids) u (id) WHERE f.id = u.id),
  put AS (INSERT INTO find_words (kind, word, id) SELECT DISTINCT k, w, id FROM said, unnest(words) w),
  plain AS (SELECT DISTINCT w COLLATE "C" AS word FROM said, unnest(words) w WHERE length(w) > 2 AND w !~ '[@.]')
  INSERT INTO find_vocabulary SELECT word FROM plain WHERE NOT EXISTS (SELECT 1 FROM find_vocabulary v WHERE v.word = plain.word)
$$;

CREATE FUNCTION find_upkeep() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE ids uuid[];
BEGIN
  IF TG_OP = 'INSERT' THEN
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
CREATE FUNCTION find_contacts() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE ids uuid[];
BEGIN
  IF TG_OP = 'INSERT' THEN SELECT array_agg(DISTINCT person_id) INTO ids FROM fresh WHERE kind = 'email';
  ELSIF TG_OP = 'DELETE' THEN SELECT array_agg(DISTINCT person_id) INTO ids FROM gone WHERE kind = 'email';
  ELSE
    SELECT array_agg(DISTINCT one) INTO ids
      FROM fresh n JOIN gone o USING (id), unnest(ARRAY[n.person_id, o.person_id]) one
     WHERE n.kind = 'email' AND (n.normalized, n.person_id) IS DISTINCT FROM (o.normalized, o.person_id);
  END IF;
  IF ids IS NOT NULL THEN PERFORM find_refresh('p', ids); END IF;
  RETURN NULL;
END $$;
CREATE TRIGGER find_people_insert AFTER INSERT ON people REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('p');
CREATE TRIGGER find_people_update AFTER UPDATE ON people REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('p', 'name_key', 'tags');
CREATE TRIGGER find_people_delete AFTER DELETE ON people REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('p');
CREATE TRIGGER find_companies_insert AFTER INSERT ON companies REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('c');
CREATE TRIGGER find_companies_update AFTER UPDATE ON companies REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('c', 'name', 'name_key', 'domain');
CREATE TRIGGER find_companies_delete AFTER DELETE ON companies REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('c');
CREATE TRIGGER find_deals_insert AFTER INSERT ON deals REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('d');
CREATE TRIGGER find_deals_update AFTER UPDATE ON deals REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('d', 'title');
CREATE TRIGGER find_deals_delete AFTER DELETE ON deals REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('d');
CREATE TRIGGER find_leads_insert AFTER INSERT ON leads REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('l');
CREATE TRIGGER find_leads_update AFTER UPDATE ON leads REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('l', 'title');
CREATE TRIGGER find_leads_delete AFTER DELETE ON leads REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_upkeep('l');
CREATE TRIGGER find_contacts_insert AFTER INSERT ON contact_points REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION find_contacts();
CREATE TRIGGER find_contacts_update AFTER UPDATE ON contact_points REFERENCING NEW TABLE AS fresh OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_contacts();
CREATE TRIGGER find_contacts_delete AFTER DELETE ON contact_points REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION find_contacts();

SELECT find_refresh('p', array_agg(id)) FROM people;
SELECT find_refresh('c', array_agg(id)) FROM companies;
SELECT find_refresh('d', array_agg(id)) FROM deals;
SELECT find_refresh('l', array_agg(id)) FROM leads;
CREATE INDEX find_records_people ON find_records USING gin (words) WITH (fastupdate = off) WHERE kind = 'p';
CREATE INDEX find_records_companies ON find_records USING gin (words) WITH (fastupdate = off) WHERE kind = 'c';
CREATE INDEX find_records_deals ON find_records USING gin (words) WITH (fastupdate = off) WHERE kind = 'd';
CREATE INDEX find_records_leads ON find_records USING gin (words) WITH (fastupdate = off) WHERE kind = 'l';
CREATE INDEX find_words_word ON find_words (kind, word, id);
CREATE INDEX find_words_id ON find_words (id);
CREATE INDEX find_vocabulary_word ON find_vocabulary (word);
CREATE INDEX find_vocabulary_trgm ON find_vocabulary USING gin (word gin_trgm_ops);

CREATE TABLE worked_with (
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  record_id uuid NOT NULL,
  times integer NOT NULL DEFAULT 1,
  last_at timestamptz NOT NULL,
  score double precision NOT NULL,
  PRIMARY KEY (user_id, record_id)
);
COMMENT ON COLUMN worked_with.score IS 'log2 of the sum of 2^(days since 1970 / 30) over all times: of how often and how recently, comparable at any time';
CREATE INDEX worked_with_score ON worked_with (user_id, score DESC) INCLUDE (record_id);

CREATE TABLE match_weights (
  id uuid PRIMARY KEY,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  made_at timestamptz NOT NULL,
  records integer NOT NULL,
  answers integer NOT NULL,
  weights jsonb NOT NULL
);
CREATE INDEX match_weights_newest ON match_weights (kind, made_at DESC);
CREATE TABLE look_alike_runs (
  id uuid PRIMARY KEY,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  started_at timestamptz NOT NULL,
  finished_at timestamptz,
  records integer NOT NULL DEFAULT 0,
  groups integer NOT NULL DEFAULT 0,
  trouble text NOT NULL DEFAULT ''
);
CREATE INDEX look_alike_runs_newest ON look_alike_runs (kind, started_at DESC);
CREATE TABLE look_alikes (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  members uuid[] NOT NULL CHECK (cardinality(members) > 1),
  probability real NOT NULL,
  state text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'merged', 'different', 'related')),
  found_at timestamptz NOT NULL
);
CREATE INDEX look_alikes_open ON look_alikes (kind, probability DESC, id) WHERE state = 'open';
CREATE INDEX look_alikes_members ON look_alikes USING gin (members);
CREATE TABLE kept_apart (
  id uuid PRIMARY KEY,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  one uuid NOT NULL,
  other uuid NOT NULL CHECK (other > one),
  facts text NOT NULL,
  said_by uuid REFERENCES users,
  said_at timestamptz NOT NULL,
  UNIQUE (one, other)
);
CREATE INDEX kept_apart_other ON kept_apart (other);
CREATE TABLE merges (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('person', 'company')),
  survivor_id uuid NOT NULL,
  merged_id uuid NOT NULL,
  label text NOT NULL,
  moved jsonb NOT NULL,
  actor_id uuid REFERENCES users,
  at timestamptz NOT NULL,
  unmerged_at timestamptz
);
CREATE INDEX merges_survivor ON merges (survivor_id) WHERE unmerged_at IS NULL;
CREATE TABLE forwardings (
  id uuid PRIMARY KEY,
  to_id uuid NOT NULL
);
CREATE INDEX forwardings_to ON forwardings (to_id);
`;
