/** A second step of signing in; and changes of many that reach what their author cannot see, for when a colleague leaves. */
export const name = '0040-accounts';

export const up = `
CREATE TABLE second_factors (
  user_id uuid PRIMARY KEY REFERENCES users ON DELETE CASCADE,
  sealed text NOT NULL,
  confirmed_at timestamptz,
  last_step bigint NOT NULL DEFAULT 0,
  made_at timestamptz NOT NULL
);
COMMENT ON TABLE second_factors IS 'the secret an authenticator app shares with us, sealed; asked for from confirmed_at on';
COMMENT ON COLUMN second_factors.last_step IS 'the newest half minute (RFC 6238) a code was taken of; one of it or before is not taken again';

CREATE TABLE recovery_codes (
  id uuid PRIMARY KEY,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  code_hash text NOT NULL,
  made_at timestamptz NOT NULL
);
COMMENT ON TABLE recovery_codes IS 'codes that sign in once without the app, hashed as passwords are; a used one is gone';
CREATE INDEX recovery_codes_user ON recovery_codes (user_id);

ALTER TABLE bulk_changes ADD COLUMN past_sight boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN bulk_changes.past_sight IS 'reaches records too that whoever began it may not see: all that somebody who leaves had';

ALTER TABLE sign_in_events DROP CONSTRAINT sign_in_events_what_check,
  ADD CONSTRAINT sign_in_events_what_check CHECK (what IN ('signed in', 'refused', 'signed out', 'link asked for', 'password set',
    'password changed', 'code refused', 'recovery code used', 'second step on', 'second step off'));
`;
