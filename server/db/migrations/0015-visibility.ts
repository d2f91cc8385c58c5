import { MEMBER_ROLE } from '../member';
import { audiencesSql } from './visibility/audiences';
import { countingSql } from './visibility/counting';
import { hidden, hiddenAmong, KINDS, PARTS, policy, SEEN } from './visibility/kinds';
import { settlingSql } from './visibility/settling';

/** Who may see what: on every record, and kept by the database itself. */
export const name = '0015-visibility';

/** Keeps what it keeps whoever writes: these functions see all rows, whatever the one who caused them may see. */
const KEEPERS = `
DO $$
DECLARE f regprocedure;
BEGIN
  FOR f IN SELECT p.oid FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace
            AND p.proname ~ '^(find_refresh|find_upkeep|find_contacts|counts_refresh|events_notify|ledger_links_take_time|ledger_entries_hand_time|.*_counted_(insert|update|delete))$'
  LOOP
    EXECUTE format('ALTER FUNCTION %s SECURITY DEFINER', f);
    EXECUTE format('ALTER FUNCTION %s SET search_path = public', f);
  END LOOP;
END $$;`;

export const up = `
${MEMBER_ROLE}
CREATE TABLE teams (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  managers uuid[] NOT NULL DEFAULT '{}'
);
INSERT INTO teams (id, name, managers)
  SELECT gen_random_uuid(), team, coalesce(array_agg(id) FILTER (WHERE role = 'manager'), '{}') FROM users WHERE team <> '' GROUP BY team;

CREATE TABLE audiences (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  key text NOT NULL UNIQUE,
  kind text NOT NULL CHECK (kind IN ('owner', 'team', 'named', 'all')),
  people uuid[] NOT NULL DEFAULT '{}',
  team_id uuid,
  parts integer[] NOT NULL DEFAULT '{}'
);
COMMENT ON TABLE audiences IS 'who may see a record: its owners with their managers, a team, named people, or those who are in all of several audiences';
CREATE TABLE audience_members (
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  audience_id integer NOT NULL REFERENCES audiences ON DELETE CASCADE,
  PRIMARY KEY (user_id, audience_id)
);
CREATE TABLE restricted (
  id uuid PRIMARY KEY,
  kind text NOT NULL,
  seen_by integer NOT NULL REFERENCES audiences
);
COMMENT ON TABLE restricted IS 'every record that not everybody may see; a record that is gone stays here, for the sake of its history';
CREATE INDEX restricted_seen_by ON restricted (seen_by);
CREATE TABLE sight_pending (kind text NOT NULL, id uuid NOT NULL);
COMMENT ON TABLE sight_pending IS 'records of which it is decided at the end of the transaction who may see them; empty in between';
CREATE TABLE visibility_defaults (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN (${KINDS.map(({ table }) => `'${table}'`).join(', ')})),
  source text CHECK (source <> '' AND (source IS NULL OR kind = 'leads')),
  visibility text NOT NULL CHECK (visibility IN ('everybody', 'owner', 'team', 'named')),
  visible_to uuid[] NOT NULL DEFAULT '{}',
  UNIQUE NULLS NOT DISTINCT (kind, source)
);
CREATE TABLE hidden_matches (
  id uuid PRIMARY KEY,
  record_id uuid NOT NULL,
  kind text NOT NULL,
  met_by uuid NOT NULL REFERENCES users,
  met_at timestamptz NOT NULL,
  settled_at timestamptz
);
COMMENT ON TABLE hidden_matches IS 'who came upon a record that they cannot see; told to those who manage it';
CREATE UNIQUE INDEX hidden_matches_open ON hidden_matches (record_id, met_by) WHERE settled_at IS NULL;

-- What is made without a word about who may see it follows the defaults of its kind.
CREATE FUNCTION visibility_take_default() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE chosen visibility_defaults;
BEGIN
  SELECT * INTO chosen FROM visibility_defaults d WHERE d.kind = TG_TABLE_NAME AND d.source IS NULL;
  NEW.visibility := coalesce(chosen.visibility, 'everybody');
  NEW.visible_to := coalesce(chosen.visible_to, '{}');
  RETURN NEW;
END $$;
CREATE FUNCTION lead_visibility_take_default() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE chosen visibility_defaults;
BEGIN
  SELECT * INTO chosen FROM visibility_defaults d WHERE d.kind = TG_TABLE_NAME AND (d.source IS NULL OR d.source = NEW.source) ORDER BY d.source NULLS LAST LIMIT 1;
  NEW.visibility := coalesce(chosen.visibility, 'everybody');
  NEW.visible_to := coalesce(chosen.visible_to, '{}');
  RETURN NEW;
END $$;
${KINDS.map(
  ({ table }) => `
ALTER TABLE ${table} ADD COLUMN visibility text DEFAULT 'everybody' CHECK (visibility IN ('everybody', 'owner', 'team', 'named')),
  ADD COLUMN visible_to uuid[] NOT NULL DEFAULT '{}', ADD COLUMN seen_by integer REFERENCES audiences;
ALTER TABLE ${table} ALTER COLUMN visibility DROP DEFAULT;
CREATE TRIGGER visibility_take_default BEFORE INSERT ON ${table} FOR EACH ROW WHEN (NEW.visibility IS NULL)
  EXECUTE FUNCTION ${table === 'leads' ? 'lead_visibility_take_default' : 'visibility_take_default'}();
CREATE INDEX ${table}_seen_by ON ${table} (seen_by) WHERE seen_by IS NOT NULL;`,
).join('\n')}
ALTER TABLE find_records ADD COLUMN seen_by integer;
ALTER TABLE find_words ADD COLUMN seen_by integer;
ALTER TABLE deal_sums ADD COLUMN seen_by integer;
ALTER TABLE tag_counts ADD COLUMN seen_by integer;

${audiencesSql}
${settlingSql}
${countingSql}
${KEEPERS}

-- What an event changed, hidden as soon as one of the records is that it touched.
CREATE FUNCTION event_is_hidden(changes jsonb) RETURNS boolean LANGUAGE sql STABLE AS $$
  SELECT EXISTS (SELECT 1 FROM restricted) AND EXISTS (
    SELECT 1 FROM restricted r WHERE r.seen_by <> ALL ((SELECT my_audiences())::integer[]) AND r.id::text IN (
      SELECT c ->> 'id' FROM jsonb_array_elements(changes) c
      UNION ALL SELECT v.value FROM jsonb_array_elements(changes) c, jsonb_each_text(coalesce(nullif(c -> 'after', 'null'), '{}')) v WHERE v.key LIKE '%Id'
      UNION ALL SELECT v.value FROM jsonb_array_elements(changes) c, jsonb_each_text(coalesce(nullif(c -> 'before', 'null'), '{}')) v WHERE v.key LIKE '%Id'))
$$;

-- For the tables of rooms to come: whether somebody may see all the records a row speaks of.
CREATE FUNCTION may_see(VARIADIC ids uuid[]) RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE AS $$
  SELECT has_reader() AND NOT EXISTS (SELECT 1 FROM restricted r WHERE r.id = ANY (ids) AND r.seen_by <> ALL (my_audiences()))
$$;
-- How much waits is no secret, and told to whoever may read figures of the program.
CREATE FUNCTION waiting_jobs() RETURNS TABLE (job text, waiting integer) LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  RETURN QUERY SELECT j.task_identifier, count(*)::integer FROM graphile_worker.jobs j GROUP BY 1;
END $$;
-- The queue belongs to a package that lets nobody else in; this is the one way by which a job is asked for.
CREATE FUNCTION queue_job(job text, input json, key text, tries integer, at timestamptz) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  PERFORM graphile_worker.add_job(job, payload => input, job_key => key, max_attempts => tries, run_at => at);
END $$;

${KINDS.map(({ table, parents }) => policy(table, SEEN, parents)).join('\n')}
${['find_records', 'find_words', 'deal_sums', 'tag_counts'].map((table) => policy(table, SEEN, [])).join('\n')}
${Object.entries(PARTS)
  .map(([table, columns]) => policy(table, `NOT ${hiddenAmong(table, columns)}`, columns))
  .join('\n')}
${policy('calls', `user_id = (SELECT reader()) OR NOT ${hiddenAmong('calls', ['person_id', 'capture_id'])}`, [])}
${policy('look_alikes', `NOT ${hidden('r.id = ANY (look_alikes.members)')}`, [])}
${policy('hidden_matches', `NOT ${hiddenAmong('hidden_matches', ['record_id'])}`, [])}
${policy('events', 'NOT event_is_hidden(changes)', [])}
-- Of a column nothing is known of, a plan expects next to no rows.
ANALYZE ${[...KINDS.map(({ table }) => table), 'find_records', 'find_words', 'deal_sums', 'tag_counts', 'restricted'].join(', ')};
`;
