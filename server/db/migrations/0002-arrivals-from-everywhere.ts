/** Captures of every kind, fields of the house's own, tags and lists, consent. */
export const name = '0002-arrivals-from-everywhere';

export const up = `
ALTER TABLE captures DROP CONSTRAINT captures_kind_check, DROP CONSTRAINT captures_came_by_check;
ALTER TABLE captures
  ADD CONSTRAINT captures_kind_check CHECK (kind IN ('email', 'text', 'page', 'call', 'form', 'card', 'row')),
  ADD CONSTRAINT captures_came_by_check CHECK (came_by IN ('upload', 'paste', 'post', 'api', 'clipper', 'fetch', 'exchange', 'form', 'mailbox')),
  ADD COLUMN message_id text,
  ADD COLUMN thread text;
CREATE INDEX captures_message_id ON captures (message_id) WHERE message_id IS NOT NULL;
UPDATE captures SET message_id = message->>'messageId', thread = coalesce(message->'references'->>0, message->>'messageId') WHERE kind = 'email';

ALTER TABLE claims DROP CONSTRAINT claims_field_check;
ALTER TABLE claims ADD CONSTRAINT claims_field_check CHECK (
  field IN ('fullName','givenName','familyName','jobTitle','companyName','email','phone','url','profile','address','birthday','timeZone','note')
  OR field ~ '^custom:[a-z0-9_]{1,40}$');

ALTER TABLE intents DROP CONSTRAINT intents_kind_check;
UPDATE intents SET kind = 'date' WHERE kind = 'when';
ALTER TABLE intents ADD CONSTRAINT intents_kind_check CHECK (kind IN ('ask', 'promise', 'date', 'money', 'quantity', 'interest', 'objection'));

ALTER TABLE people
  ADD COLUMN birthday text CHECK (birthday ~ '^([0-9]{4}|-)-[0-9]{2}-[0-9]{2}$'),
  ADD COLUMN background text,
  ADD COLUMN custom jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(custom) = 'object'),
  ADD COLUMN tags text[] NOT NULL DEFAULT '{}';
CREATE INDEX people_tags ON people USING gin (tags);
ALTER TABLE contact_points
  ADD COLUMN consent text CHECK (consent IN ('agreed', 'unconfirmed', 'withdrawn', 'undeliverable')),
  ADD COLUMN consent_at timestamptz,
  ADD COLUMN consent_source text;

CREATE TABLE custom_fields (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  key text NOT NULL UNIQUE CHECK (key ~ '^[a-z0-9_]{1,40}$'),
  label text NOT NULL CHECK (label <> ''),
  kind text NOT NULL CHECK (kind IN ('text', 'number', 'date', 'choice', 'yes or no')),
  options jsonb NOT NULL DEFAULT '[]',
  position integer NOT NULL,
  active boolean NOT NULL DEFAULT true
);
CREATE TABLE field_mappings (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  field text NOT NULL UNIQUE,
  target text NOT NULL CHECK (target IN ('own', 'background', 'nowhere') OR target ~ '^custom:[a-z0-9_]{1,40}$')
);
CREATE TABLE lists (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL UNIQUE CHECK (name <> ''),
  created_at timestamptz NOT NULL
);
CREATE TABLE list_members (
  id uuid PRIMARY KEY,
  list_id uuid NOT NULL REFERENCES lists,
  person_id uuid NOT NULL REFERENCES people,
  created_at timestamptz NOT NULL,
  UNIQUE (list_id, person_id)
);
CREATE INDEX list_members_person ON list_members (person_id);

ALTER TABLE ledger_entries
  ADD COLUMN message_id text,
  ADD COLUMN thread text;
CREATE UNIQUE INDEX ledger_entries_message_id ON ledger_entries (message_id) WHERE message_id IS NOT NULL;
CREATE INDEX ledger_entries_thread ON ledger_entries (thread) WHERE thread IS NOT NULL;
`;
