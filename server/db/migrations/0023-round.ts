/**
 * The round: how often we mean to be in touch, who is important, whose round somebody belongs to, when they are going
 * quiet, and what somebody put off.
 */
export const name = '0023-round';

export const up = `
ALTER TABLE people ADD COLUMN rhythm_days integer CHECK (rhythm_days BETWEEN 1 AND 1000), ADD COLUMN is_important boolean NOT NULL DEFAULT false;
ALTER TABLE companies ADD COLUMN rhythm_days integer CHECK (rhythm_days BETWEEN 1 AND 1000), ADD COLUMN is_important boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN people.rhythm_days IS 'how often we mean to be in touch; null leaves it to their company, tags and standing';

ALTER TABLE plans DROP CONSTRAINT plans_kind_check;
ALTER TABLE plans ADD CONSTRAINT plans_kind_check CHECK (kind IN ('call', 'mail', 'meeting', 'visit', 'task'));

CREATE TABLE rhythms (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL CHECK (kind IN ('standing', 'tag')),
  value text NOT NULL CHECK (value <> ''),
  days integer NOT NULL CHECK (days BETWEEN 1 AND 1000),
  UNIQUE (kind, value)
);

ALTER TABLE turns ADD COLUMN owner_id uuid REFERENCES users, ADD COLUMN quiet_at timestamptz;
COMMENT ON COLUMN turns.owner_id IS 'in whose round they are: of whoever looks after them; null for nobody';
COMMENT ON COLUMN turns.quiet_at IS 'when they are going quiet by the rhythm; null without one';
UPDATE turns t SET owner_id = coalesce(p.owner_id, c.owner_id)
  FROM people p LEFT JOIN companies c ON c.id = p.company_id WHERE p.id = t.person_id AND p.inactive_since IS NULL;
CREATE INDEX turns_ours ON turns (owner_id, since, person_id) WHERE turn = 'ours' OR is_live;
CREATE INDEX turns_quiet ON turns (owner_id, quiet_at, person_id) WHERE quiet_at IS NOT NULL;
CREATE INDEX leads_new ON leads (owner_id, created_at, id) WHERE status = 'new';
CREATE INDEX deals_open_of ON deals (owner_id, stage_since, id) WHERE closed_at IS NULL;

CREATE TABLE round_later (
  id uuid PRIMARY KEY,
  user_id uuid NOT NULL REFERENCES users,
  key text NOT NULL,
  until timestamptz NOT NULL,
  created_at timestamptz NOT NULL
);
COMMENT ON TABLE round_later IS 'what somebody put off in their round; something new about it brings it back at once';
CREATE INDEX round_later_user ON round_later (user_id, until);
ALTER TABLE round_later ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON round_later TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));
ALTER TABLE users ADD COLUMN round_mail boolean NOT NULL DEFAULT false, ADD COLUMN round_mailed_on date;
COMMENT ON COLUMN users.round_mail IS 'whether their round is mailed to them in the morning';
`;
