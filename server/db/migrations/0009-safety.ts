/** Sameness of messages by content, who may undo, idle sessions, mail set aside with its reason. */
export const name = '0009-safety';
export const up = `
ALTER TABLE captures ADD COLUMN content_sha256 text;
COMMENT ON COLUMN captures.content_sha256 IS 'what a message says without how it was carried; an ID alone does not make two messages one';
CREATE INDEX captures_message_content ON captures (message_id, content_sha256) WHERE content_sha256 IS NOT NULL;

ALTER TABLE sessions ADD COLUMN last_seen_at timestamptz;
UPDATE sessions SET last_seen_at = created_at;
ALTER TABLE sessions ALTER COLUMN last_seen_at SET NOT NULL;
CREATE INDEX sessions_user ON sessions (user_id);

CREATE TABLE sign_ins (
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  address text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (user_id, address)
);
COMMENT ON TABLE sign_ins IS 'from where somebody signed in before: attempts by others do not lock them out there';

ALTER TABLE users ADD COLUMN version integer NOT NULL DEFAULT 1;

ALTER TABLE events ADD COLUMN roles text[];
COMMENT ON COLUMN events.roles IS 'who may give this command, and so take it back; null for everybody';
ALTER TABLE events DISABLE TRIGGER events_append_only;
UPDATE events SET roles = '{manager,admin}'
 WHERE EXISTS (SELECT 1 FROM jsonb_array_elements(changes) c WHERE c->>'table' IN
   ('questions', 'pipelines', 'stages', 'close_reasons', 'products', 'price_lists', 'prices', 'currency_rates', 'quote_settings',
    'custom_fields', 'forms', 'look_up_rules', 'look_up_sources', 'fit_rules', 'warmth_rules', 'owner_rules', 'plans', 'relation_kinds'));
ALTER TABLE events ENABLE TRIGGER events_append_only;

CREATE OR REPLACE FUNCTION events_notify() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE touched jsonb;
BEGIN
  SELECT coalesce(jsonb_agg(DISTINCT jsonb_build_object('table', change->>'table', 'id', change->>'id')), '[]')
    INTO touched
    FROM (SELECT change FROM jsonb_array_elements(NEW.changes) change LIMIT 60) few;
  PERFORM pg_notify('emporikon_events', jsonb_build_object('id', NEW.id, 'command', NEW.command, 'actorId', NEW.actor_id, 'roles', NEW.roles, 'touched', touched)::text);
  RETURN NEW;
END $$;

ALTER TABLE people ADD COLUMN name_prefix text NOT NULL DEFAULT '', ADD COLUMN department text NOT NULL DEFAULT '',
  ADD COLUMN address_type text CHECK (address_type IN ('work', 'home')), ADD COLUMN address_parts text[];
COMMENT ON COLUMN people.address_parts IS 'the parts of a card''s address (RFC 6350 6.3.1), as long as the address is the one they make';

ALTER TABLE ledger_entries ADD COLUMN outcome text CHECK (outcome IN ('spoke', 'no answer', 'voicemail'));
COMMENT ON COLUMN ledger_entries.outcome IS 'how a call ended; null where nobody said';

ALTER TABLE mailboxes DROP CONSTRAINT mailboxes_state_check;
ALTER TABLE mailboxes ADD CHECK (state IN ('new', 'reading', 'current', 'down', 'refused'));
CREATE TABLE mailbox_set_aside (
  mailbox_id uuid NOT NULL REFERENCES mailboxes ON DELETE CASCADE,
  path text NOT NULL,
  uid_validity bigint NOT NULL,
  uid bigint NOT NULL,
  sender text NOT NULL DEFAULT '',
  reason text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (mailbox_id, path, uid_validity, uid)
);
COMMENT ON TABLE mailbox_set_aside IS 'messages that could not be filed automatically, each with its reason; the mailbox goes on without them';
`;
