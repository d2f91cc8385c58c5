/** Qualifying: the rule sheet of fit, what people did outside our ledger, scores of leads, and what was learnt of wins. */
export const name = '0007-qualifying';

export const up = `
CREATE TABLE fit_rules (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  position integer NOT NULL,
  field text NOT NULL,
  condition text NOT NULL,
  value text NOT NULL,
  points integer NOT NULL CHECK (points BETWEEN -100 AND 100)
);

CREATE TABLE warmth_rules (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  half_life_days integer NOT NULL DEFAULT 14 CHECK (half_life_days BETWEEN 1 AND 365),
  points jsonb NOT NULL DEFAULT '{}'
);
INSERT INTO warmth_rules DEFAULT VALUES;

CREATE TABLE signals (
  id uuid PRIMARY KEY,
  person_id uuid NOT NULL REFERENCES people,
  kind text NOT NULL CHECK (kind IN ('opened', 'clicked', 'visited', 'met')),
  at timestamptz NOT NULL,
  words text NOT NULL,
  created_at timestamptz NOT NULL
);
COMMENT ON TABLE signals IS 'what somebody did that no ledger entry tells of: opened a mail, followed a link, visited our site, came to a meeting';
CREATE INDEX signals_person ON signals (person_id, at DESC);

CREATE TABLE lead_scores (
  lead_id uuid PRIMARY KEY REFERENCES leads ON DELETE CASCADE,
  fit smallint NOT NULL,
  warmth smallint NOT NULL,
  completeness smallint NOT NULL,
  chance real NOT NULL,
  scored_at timestamptz NOT NULL
);
CREATE INDEX lead_scores_chance ON lead_scores (chance DESC, lead_id);

CREATE TABLE win_models (
  id uuid PRIMARY KEY,
  made_at timestamptz NOT NULL,
  model jsonb NOT NULL
);
CREATE INDEX win_models_newest ON win_models (made_at DESC);

CREATE TABLE plans (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  position integer NOT NULL,
  name text NOT NULL,
  kind text NOT NULL CHECK (kind IN ('call', 'mail', 'meeting', 'task')),
  title text NOT NULL,
  days integer NOT NULL CHECK (days BETWEEN 0 AND 365),
  active boolean NOT NULL DEFAULT true
);
COMMENT ON TABLE plans IS 'what is done first with a new prospect, so many working days on';
INSERT INTO plans (position, name, kind, title, days) VALUES
  (1, 'Call soon', 'call', 'Call for the first time', 1),
  (2, 'Write first', 'mail', 'Write and introduce us', 1),
  (3, 'Ask in a month', 'call', 'Ask how it stands', 20);
ALTER TABLE people ADD COLUMN triaged_at timestamptz;
CREATE INDEX people_untriaged ON people (created_at, id) WHERE triaged_at IS NULL AND inactive_since IS NULL AND standing = 'stranger';

CREATE TABLE owner_rules (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  position integer NOT NULL,
  field text,
  condition text,
  value text NOT NULL DEFAULT '',
  owners text[] NOT NULL,
  CHECK ((field IS NULL) = (condition IS NULL))
);
COMMENT ON TABLE owner_rules IS 'who is given new leads: the first that holds, in turn among its owners; a field of null is the rule of all the rest';
ALTER TABLE leads ADD COLUMN given_by uuid;
COMMENT ON COLUMN leads.given_by IS 'the owner rule by which it was given to its owner; null where a person chose';
CREATE INDEX leads_given ON leads (owner_id, created_at DESC) WHERE given_by IS NOT NULL;

ALTER TABLE leads ADD COLUMN parked_from text CHECK (parked_from IN ('new', 'working', 'qualified'));
CREATE INDEX leads_parked ON leads (parked_until) WHERE status = 'parked';
CREATE INDEX leads_dropped ON leads (status_since) WHERE status = 'dropped';
`;
