/** Who looks at or edits a record right now. Nothing of it outlives a crash, and nothing is built on it. */
export const name = '0024-presence';

export const up = `
CREATE UNLOGGED TABLE presence (
  tab uuid NOT NULL,
  record_id uuid NOT NULL,
  user_id uuid NOT NULL REFERENCES users,
  field text NOT NULL DEFAULT '' CHECK (length(field) <= 120),
  at timestamptz NOT NULL,
  PRIMARY KEY (tab, record_id)
);
COMMENT ON TABLE presence IS 'which tab of whom shows a record; field is what is edited there';
CREATE INDEX presence_record ON presence (record_id, at);
CREATE INDEX presence_user ON presence (user_id);
`;
