/** Look-ups: what outside sources are asked, what they answered and what it cost; the facts of a company they tell of. */
export const name = '0006-lookups';

export const up = `
ALTER TABLE companies
  ADD COLUMN legal_name text,
  ADD COLUMN industry text,
  ADD COLUMN employees integer CHECK (employees >= 0),
  ADD COLUMN technologies text[] NOT NULL DEFAULT '{}',
  ADD COLUMN country text CHECK (country ~ '^[A-Z]{2}$'),
  ADD COLUMN time_zone text;

CREATE TABLE look_up_sources (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  key text NOT NULL UNIQUE,
  active boolean NOT NULL DEFAULT true,
  failures integer NOT NULL DEFAULT 0,
  open_until timestamptz,
  trouble text,
  next_at timestamptz NOT NULL DEFAULT '-infinity'
);
COMMENT ON COLUMN look_up_sources.next_at IS 'when the next question may go out, so that all processes together keep to the source''s own rate';

CREATE TABLE look_up_rules (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  allowance integer NOT NULL DEFAULT 5000 CHECK (allowance >= 0),
  per_user integer CHECK (per_user >= 0),
  point_worth integer NOT NULL DEFAULT 2 CHECK (point_worth BETWEEN 0 AND 1000),
  enough integer NOT NULL DEFAULT 90 CHECK (enough BETWEEN 0 AND 100),
  automatic boolean NOT NULL DEFAULT false,
  fill_blanks boolean NOT NULL DEFAULT true,
  keep_days integer NOT NULL DEFAULT 90 CHECK (keep_days BETWEEN 0 AND 3650)
);
COMMENT ON TABLE look_up_rules IS 'one row: the allowance of a month, limits, and what is done by itself; money in minor units of the house';
INSERT INTO look_up_rules DEFAULT VALUES;

CREATE TABLE look_up_purses (
  month text NOT NULL CHECK (month ~ '^[0-9]{4}-[0-9]{2}$'),
  who text NOT NULL,
  spent integer NOT NULL DEFAULT 0 CHECK (spent >= 0),
  PRIMARY KEY (month, who)
);
COMMENT ON TABLE look_up_purses IS 'what was spent or is set aside, by month: of the house, and of each user';

CREATE TABLE look_up_runs (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  asked_by uuid NOT NULL REFERENCES users,
  subjects jsonb NOT NULL,
  total integer NOT NULL,
  done integer NOT NULL DEFAULT 0,
  filled integer NOT NULL DEFAULT 0,
  suggested integer NOT NULL DEFAULT 0,
  state text NOT NULL DEFAULT 'running' CHECK (state IN ('running', 'done', 'stopped')),
  trouble text,
  created_at timestamptz NOT NULL,
  finished_at timestamptz
);

CREATE TABLE look_ups (
  id uuid PRIMARY KEY,
  source text NOT NULL,
  question_key text NOT NULL,
  question jsonb NOT NULL,
  state text NOT NULL CHECK (state IN ('asking', 'found', 'nothing', 'failed')),
  answer jsonb,
  trouble text,
  price integer NOT NULL CHECK (price >= 0),
  month text NOT NULL,
  tries integer NOT NULL DEFAULT 0,
  asked_by uuid REFERENCES users,
  person_id uuid REFERENCES people ON DELETE SET NULL,
  company_id uuid REFERENCES companies ON DELETE SET NULL,
  run_id uuid REFERENCES look_up_runs ON DELETE SET NULL,
  asked_at timestamptz NOT NULL,
  answered_at timestamptz
);
COMMENT ON COLUMN look_ups.price IS 'what it cost, minor units of the house; while it is asked, what is set aside for it';
CREATE UNIQUE INDEX look_ups_in_flight ON look_ups (source, question_key) WHERE state = 'asking';
CREATE INDEX look_ups_kept ON look_ups (source, question_key, answered_at DESC) WHERE state IN ('found', 'nothing');
CREATE INDEX look_ups_newest ON look_ups (asked_at DESC, id);
CREATE INDEX look_ups_run ON look_ups (run_id) WHERE run_id IS NOT NULL;
CREATE INDEX look_ups_person ON look_ups (person_id) WHERE person_id IS NOT NULL;
CREATE INDEX look_ups_company ON look_ups (company_id) WHERE company_id IS NOT NULL;

ALTER TABLE claims DROP CONSTRAINT claims_field_check;
ALTER TABLE claims ADD CONSTRAINT claims_field_check CHECK (
  field IN ('fullName','givenName','familyName','jobTitle','companyName','email','phone','url','profile','address','birthday','timeZone','note',
            'domain','legalName','industry','employees','technologies','country')
  OR field ~ '^custom:[a-z0-9_]{1,40}$');
ALTER TABLE claims
  ADD COLUMN look_up_id uuid REFERENCES look_ups,
  ADD COLUMN kept boolean;
COMMENT ON COLUMN claims.kept IS 'of an answer of a source: whether it was kept (agreed with or taken) or not (refused or replaced); null while undecided';
CREATE INDEX claims_look_up ON claims (look_up_id) WHERE look_up_id IS NOT NULL;
CREATE INDEX claims_proposed_person ON claims (person_id) WHERE fate = 'proposed' AND person_id IS NOT NULL;
CREATE INDEX claims_proposed_company ON claims (company_id) WHERE fate = 'proposed' AND company_id IS NOT NULL;
`;
