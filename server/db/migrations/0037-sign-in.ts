/** Links by mail for a password, where somebody is signed in, and what became of each sign-in. */
export const name = '0037-sign-in';

export const up = `
ALTER TABLE sessions ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid(),
  ADD COLUMN device text NOT NULL DEFAULT '', ADD COLUMN address text NOT NULL DEFAULT '';
CREATE UNIQUE INDEX sessions_id ON sessions (id);

CREATE TABLE password_links (
  token_hash text PRIMARY KEY,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  purpose text NOT NULL CHECK (purpose IN ('reset', 'invitation')),
  made_at timestamptz NOT NULL,
  expires_at timestamptz NOT NULL
);
COMMENT ON TABLE password_links IS 'links by which somebody chooses a password, as hashes; a used one is gone';
CREATE INDEX password_links_user ON password_links (user_id, made_at DESC);

CREATE TABLE sign_in_events (
  id uuid PRIMARY KEY,
  user_id uuid REFERENCES users ON DELETE CASCADE,
  email text NOT NULL,
  what text NOT NULL CHECK (what IN ('signed in', 'refused', 'signed out', 'link asked for', 'password set', 'password changed')),
  address text NOT NULL,
  device text NOT NULL,
  at timestamptz NOT NULL
);
COMMENT ON TABLE sign_in_events IS 'who signed in, or tried to, from where; kept for 180 days';
CREATE INDEX sign_in_events_user ON sign_in_events (user_id, at DESC, id DESC);
CREATE INDEX sign_in_events_at ON sign_in_events (at DESC, id DESC);
CREATE INDEX sign_in_events_address ON sign_in_events (address, at DESC) WHERE what = 'link asked for';
`;
