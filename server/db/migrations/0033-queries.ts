import { STARTING_VIEWS } from './views/starting';

/** Records can be asked about in one language, and questions can be kept as views. */
export const name = '0033-queries';

export const up = `
CREATE FUNCTION query_text(words text) RETURNS text LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE AS $$
  SELECT lower(regexp_replace(normalize(words, NFKD), '[\\u0300-\\u036f]', '', 'g'))
$$;
COMMENT ON FUNCTION query_text IS 'text as it is compared in queries: without case and accents';

CREATE STATISTICS people_texts ON (query_text(job_title)), (query_text(full_name)) FROM people;
CREATE INDEX turns_spoken ON turns (spoken_at, person_id) WHERE spoken_at IS NOT NULL;
CREATE INDEX turns_ours_since ON turns (since, person_id) WHERE turn = 'ours';
CREATE INDEX deals_open_since ON deals (stage_since, id) WHERE closed_at IS NULL;
CREATE INDEX people_created ON people (created_at, id);
CREATE INDEX people_birthday ON people (right(birthday, 5), id) WHERE birthday IS NOT NULL;
ANALYZE people;

CREATE TABLE views (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('person', 'company', 'lead', 'deal', 'task', 'project', 'case', 'entry', 'capture')),
  name text NOT NULL CHECK (name <> ''),
  query jsonb NOT NULL,
  shared text NOT NULL DEFAULT 'me' CHECK (shared IN ('me', 'team', 'everybody')),
  team text,
  owner_id uuid REFERENCES users,
  position integer NOT NULL DEFAULT 0,
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL,
  CHECK ((shared = 'team') = (team IS NOT NULL)),
  CHECK (shared <> 'me' OR owner_id IS NOT NULL)
);
CREATE UNIQUE INDEX views_name ON views (kind, lower(name), coalesce(owner_id, '00000000-0000-0000-0000-000000000000'::uuid));
CREATE INDEX views_owner ON views (owner_id);
COMMENT ON TABLE views IS 'questions that are kept: whose, for whom, and how the answer is shown; without an owner it came with the program';
ALTER TABLE views ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON views TO emporikon_member USING (
  (SELECT has_reader()) AND (shared = 'everybody' OR owner_id = (SELECT reader())
    OR (shared = 'team' AND team = (SELECT u.team FROM users u WHERE u.id = reader()))));
CREATE TABLE last_views (
  user_id uuid NOT NULL REFERENCES users,
  kind text NOT NULL,
  view_id uuid NOT NULL REFERENCES views ON DELETE CASCADE,
  PRIMARY KEY (user_id, kind)
);
CREATE INDEX last_views_view ON last_views (view_id);
INSERT INTO views (id, kind, name, query, shared, position, created_at, updated_at) VALUES
${STARTING_VIEWS.map(
  ([kind, called, query], at) =>
    `(gen_random_uuid(), '${kind}', '${called}', '${JSON.stringify(query)}', 'everybody', ${at}, now(), now())`,
).join(',\n')};
`;
