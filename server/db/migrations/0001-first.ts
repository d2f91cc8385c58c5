/** The first shape of the database. Forward only. */
export const name = '0001-first';

export const up = `
CREATE EXTENSION IF NOT EXISTS pg_trgm;

CREATE TABLE users (
  id uuid PRIMARY KEY,
  email text NOT NULL CHECK (email = lower(email)),
  name text NOT NULL CHECK (name <> ''),
  role text NOT NULL CHECK (role IN ('rep', 'manager', 'admin')),
  time_zone text NOT NULL DEFAULT 'Europe/London',
  password_hash text NOT NULL,
  active boolean NOT NULL DEFAULT true,
  created_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX users_email ON users (email);

CREATE TABLE sessions (
  token_hash text PRIMARY KEY,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  created_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL
);
CREATE TABLE access_tokens (
  id uuid PRIMARY KEY,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  name text NOT NULL CHECK (name <> ''),
  token_hash text NOT NULL UNIQUE,
  created_at timestamptz NOT NULL,
  last_used_at timestamptz,
  revoked_at timestamptz
);
CREATE TABLE sign_in_failures (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  key text NOT NULL,
  at timestamptz NOT NULL
);
CREATE INDEX sign_in_failures_key ON sign_in_failures (key, at);

CREATE TABLE companies (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL CHECK (name <> ''),
  name_key text NOT NULL,
  domain text CHECK (domain = lower(domain)),
  url text,
  phone text CHECK (phone ~ '^\\+[0-9]{6,15}$'),
  address text,
  owner_id uuid REFERENCES users,
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX companies_domain ON companies (domain);
CREATE INDEX companies_name_key ON companies (name_key);
CREATE INDEX companies_name_trgm ON companies USING gin (name_key gin_trgm_ops);

CREATE TABLE people (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  full_name text NOT NULL CHECK (full_name <> ''),
  given_name text NOT NULL DEFAULT '',
  family_name text NOT NULL DEFAULT '',
  name_key text NOT NULL,
  job_title text,
  address text,
  time_zone text,
  company_id uuid REFERENCES companies,
  standing text NOT NULL DEFAULT 'stranger' CHECK (standing IN ('stranger', 'prospect', 'customer', 'past customer', 'partner', 'personal')),
  owner_id uuid REFERENCES users,
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL
);
CREATE INDEX people_name_key ON people (name_key);
CREATE INDEX people_name_trgm ON people USING gin (name_key gin_trgm_ops);
CREATE INDEX people_company ON people (company_id);

CREATE TABLE contact_points (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  person_id uuid NOT NULL REFERENCES people,
  kind text NOT NULL CHECK (kind IN ('email', 'phone', 'url', 'profile')),
  value text NOT NULL CHECK (value <> ''),
  normalized text NOT NULL CHECK (normalized <> ''),
  type text CHECK (type IN ('mobile', 'work', 'home', 'fax')),
  created_at timestamptz NOT NULL,
  UNIQUE (person_id, kind, normalized)
);
CREATE UNIQUE INDEX contact_points_email ON contact_points (normalized) WHERE kind = 'email';
CREATE INDEX contact_points_normalized ON contact_points (kind, normalized);

CREATE TABLE stages (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  position integer NOT NULL UNIQUE,
  kind text NOT NULL DEFAULT 'open' CHECK (kind IN ('open', 'won', 'lost')),
  probability integer NOT NULL CHECK (probability BETWEEN 0 AND 100),
  typical_days integer NOT NULL CHECK (typical_days > 0)
);
CREATE TABLE questions (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  label text NOT NULL CHECK (label <> ''),
  help text NOT NULL DEFAULT '',
  position integer NOT NULL,
  active boolean NOT NULL DEFAULT true
);

CREATE TABLE captures (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('email', 'text')),
  media_type text NOT NULL,
  sha256 text NOT NULL UNIQUE CHECK (sha256 ~ '^[0-9a-f]{64}$'),
  raw bytea NOT NULL CHECK (octet_length(raw) > 0),
  came_by text NOT NULL CHECK (came_by IN ('upload', 'paste', 'post', 'api')),
  captured_by uuid REFERENCES users,
  received_at timestamptz NOT NULL,
  message jsonb NOT NULL,
  notices jsonb NOT NULL DEFAULT '[]',
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'filed', 'set aside')),
  filed_at timestamptz
);
CREATE INDEX captures_waiting ON captures (received_at DESC) WHERE state = 'waiting';
CREATE FUNCTION captures_keep_raw() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.raw IS DISTINCT FROM OLD.raw OR NEW.sha256 <> OLD.sha256 OR NEW.received_at <> OLD.received_at THEN
    RAISE EXCEPTION 'a capture is immutable';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER captures_keep_raw BEFORE UPDATE ON captures FOR EACH ROW EXECUTE FUNCTION captures_keep_raw();

CREATE TABLE leads (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  title text NOT NULL CHECK (title <> ''),
  person_id uuid NOT NULL REFERENCES people,
  company_id uuid REFERENCES companies,
  status text NOT NULL DEFAULT 'new' CHECK (status IN ('new', 'working', 'qualified', 'converted', 'parked', 'dropped')),
  status_since timestamptz NOT NULL,
  source text NOT NULL,
  owner_id uuid NOT NULL REFERENCES users,
  parked_until date,
  drop_reason text,
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL,
  CHECK (status <> 'parked' OR parked_until IS NOT NULL),
  CHECK (status <> 'dropped' OR drop_reason <> '')
);
CREATE INDEX leads_person ON leads (person_id);
CREATE INDEX leads_company ON leads (company_id);
CREATE TABLE lead_answers (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  lead_id uuid NOT NULL REFERENCES leads,
  question_id uuid NOT NULL REFERENCES questions,
  answer text NOT NULL,
  answered_by uuid NOT NULL REFERENCES users,
  answered_at timestamptz NOT NULL,
  UNIQUE (lead_id, question_id)
);

CREATE TABLE deals (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  title text NOT NULL CHECK (title <> ''),
  company_id uuid REFERENCES companies,
  lead_id uuid UNIQUE REFERENCES leads,
  stage_id uuid NOT NULL REFERENCES stages,
  stage_since timestamptz NOT NULL,
  amount_minor bigint CHECK (amount_minor >= 0),
  currency char(3) NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
  probability integer NOT NULL CHECK (probability BETWEEN 0 AND 100),
  probability_by_hand boolean NOT NULL DEFAULT false,
  expected_close date,
  owner_id uuid NOT NULL REFERENCES users,
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL
);
CREATE INDEX deals_company ON deals (company_id);
CREATE INDEX deals_stage ON deals (stage_id);
CREATE TABLE deal_roles (
  id uuid PRIMARY KEY,
  deal_id uuid NOT NULL REFERENCES deals,
  person_id uuid NOT NULL REFERENCES people,
  role text NOT NULL CHECK (role IN ('decides', 'influences', 'uses', 'pays', 'gatekeeper')),
  UNIQUE (deal_id, person_id, role)
);
CREATE INDEX deal_roles_person ON deal_roles (person_id);

CREATE TABLE tasks (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  title text NOT NULL CHECK (title <> ''),
  kind text NOT NULL CHECK (kind IN ('call', 'mail', 'meeting', 'task')),
  due_at timestamptz NOT NULL,
  all_day boolean NOT NULL,
  assignee_id uuid NOT NULL REFERENCES users,
  person_id uuid REFERENCES people,
  company_id uuid REFERENCES companies,
  lead_id uuid REFERENCES leads,
  deal_id uuid REFERENCES deals,
  done_at timestamptz,
  created_by uuid REFERENCES users,
  created_at timestamptz NOT NULL
);
CREATE INDEX tasks_open ON tasks (assignee_id, due_at) WHERE done_at IS NULL;
CREATE INDEX tasks_lead ON tasks (lead_id);
CREATE INDEX tasks_deal ON tasks (deal_id);
CREATE INDEX tasks_person ON tasks (person_id);

CREATE TABLE claims (
  id uuid PRIMARY KEY,
  capture_id uuid REFERENCES captures,
  person_id uuid REFERENCES people,
  company_id uuid REFERENCES companies,
  field text NOT NULL CHECK (field IN ('fullName','givenName','familyName','jobTitle','companyName','email','phone','url','profile','address','birthday','timeZone','note')),
  value text NOT NULL CHECK (value <> ''),
  normalized text,
  type text CHECK (type IN ('mobile', 'work', 'home', 'fax')),
  confidence real NOT NULL CHECK (confidence BETWEEN 0 AND 1),
  span jsonb,
  source text NOT NULL,
  by_hand boolean NOT NULL DEFAULT false,
  actor_id uuid REFERENCES users,
  fate text NOT NULL CHECK (fate IN ('current', 'proposed', 'superseded', 'rejected')),
  replaces uuid REFERENCES claims,
  created_at timestamptz NOT NULL
);
CREATE INDEX claims_capture ON claims (capture_id);
CREATE INDEX claims_person ON claims (person_id, field);
CREATE INDEX claims_company ON claims (company_id, field);

CREATE TABLE intents (
  id uuid PRIMARY KEY,
  capture_id uuid NOT NULL REFERENCES captures,
  kind text NOT NULL CHECK (kind IN ('ask', 'when', 'money', 'quantity')),
  text text NOT NULL,
  value jsonb NOT NULL,
  confidence real NOT NULL CHECK (confidence BETWEEN 0 AND 1),
  span jsonb NOT NULL,
  fate text NOT NULL DEFAULT 'proposed' CHECK (fate IN ('proposed', 'rejected'))
);
CREATE INDEX intents_capture ON intents (capture_id);

CREATE TABLE ledger_entries (
  id uuid PRIMARY KEY,
  at timestamptz NOT NULL,
  side text NOT NULL CHECK (side IN ('theirs', 'ours', 'within')),
  kind text NOT NULL CHECK (kind IN ('mail', 'call', 'meeting', 'note', 'change')),
  headline text NOT NULL,
  body text NOT NULL DEFAULT '',
  asks jsonb NOT NULL DEFAULT '[]',
  capture_id uuid REFERENCES captures,
  actor_id uuid REFERENCES users,
  created_at timestamptz NOT NULL
);
CREATE TABLE ledger_links (
  id uuid PRIMARY KEY,
  entry_id uuid NOT NULL REFERENCES ledger_entries,
  person_id uuid REFERENCES people,
  company_id uuid REFERENCES companies,
  lead_id uuid REFERENCES leads,
  deal_id uuid REFERENCES deals,
  CHECK (num_nonnulls(person_id, company_id, lead_id, deal_id) = 1),
  UNIQUE NULLS NOT DISTINCT (entry_id, person_id, company_id, lead_id, deal_id)
);
CREATE INDEX ledger_links_person ON ledger_links (person_id) WHERE person_id IS NOT NULL;
CREATE INDEX ledger_links_company ON ledger_links (company_id) WHERE company_id IS NOT NULL;
CREATE INDEX ledger_links_lead ON ledger_links (lead_id) WHERE lead_id IS NOT NULL;
CREATE INDEX ledger_links_deal ON ledger_links (deal_id) WHERE deal_id IS NOT NULL;

CREATE TABLE events (
  seq bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  id uuid NOT NULL UNIQUE,
  at timestamptz NOT NULL,
  actor_id uuid REFERENCES users,
  command text NOT NULL,
  label text NOT NULL,
  changes jsonb NOT NULL,
  undoes uuid UNIQUE REFERENCES events (id)
);
CREATE INDEX events_changes ON events USING gin (changes jsonb_path_ops);
CREATE FUNCTION events_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'events are append-only';
END $$;
CREATE TRIGGER events_append_only BEFORE UPDATE OR DELETE ON events FOR EACH ROW EXECUTE FUNCTION events_append_only();
CREATE FUNCTION events_notify() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE touched jsonb;
BEGIN
  SELECT coalesce(jsonb_agg(DISTINCT jsonb_build_object('table', change->>'table', 'id', change->>'id')), '[]')
    INTO touched
    FROM (SELECT change FROM jsonb_array_elements(NEW.changes) change LIMIT 60) few;
  PERFORM pg_notify('emporikon_events', jsonb_build_object('id', NEW.id, 'command', NEW.command, 'actorId', NEW.actor_id, 'touched', touched)::text);
  RETURN NEW;
END $$;
CREATE TRIGGER events_notify AFTER INSERT ON events FOR EACH ROW EXECUTE FUNCTION events_notify();

CREATE TABLE idempotency_keys (
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  key text NOT NULL,
  fingerprint text NOT NULL,
  status integer,
  body jsonb,
  created_at timestamptz NOT NULL,
  PRIMARY KEY (user_id, key)
);
`;
