/** What goes out of the house: rows written with a command and carried out after it. */
export const name = '0013-outbox';

export const up = `
CREATE TABLE outbox (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL,
  payload jsonb NOT NULL,
  about_table text NOT NULL,
  about_id uuid NOT NULL,
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'sending', 'sent', 'failed', 'expired', 'unsure')),
  tries smallint NOT NULL DEFAULT 0,
  trouble text,
  created_by uuid REFERENCES users,
  created_at timestamptz NOT NULL,
  next_try_at timestamptz,
  deadline timestamptz NOT NULL,
  ended_at timestamptz
);
CREATE INDEX outbox_about ON outbox (about_id, created_at DESC);
CREATE INDEX outbox_open ON outbox (created_at) WHERE state IN ('waiting', 'sending');
COMMENT ON TABLE outbox IS 'mail, calls and other effects outside, written in the transaction of the command that wants them';
COMMENT ON COLUMN outbox.about_id IS 'the row where it was caused and its state is shown';
COMMENT ON COLUMN outbox.state IS 'unsure: it may have gone out; it is never repeated without being asked for';

ALTER TABLE calls ALTER COLUMN exchange_id DROP NOT NULL;
ALTER TABLE calls DROP CONSTRAINT calls_state_check;
ALTER TABLE calls ADD CONSTRAINT calls_state_check CHECK (state IN ('placing', 'failed', 'ringing', 'answered', 'ended', 'missed'));
COMMENT ON COLUMN calls.exchange_id IS 'null until the exchange has taken the call';
CREATE UNIQUE INDEX calls_placing ON calls (user_id) WHERE state = 'placing';
`;
