/** Calls, forms, imports and mailboxes. */
export const name = '0003-channels';

export const up = `
CREATE TABLE phone_lines (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  user_id uuid NOT NULL UNIQUE REFERENCES users ON DELETE CASCADE,
  number text NOT NULL UNIQUE CHECK (number ~ '^\\+[0-9]{6,15}$')
);
CREATE TABLE webhook_receipts (
  id text PRIMARY KEY,
  received_at timestamptz NOT NULL
);
CREATE TABLE calls (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  exchange_id text NOT NULL UNIQUE,
  direction text NOT NULL CHECK (direction IN ('in', 'out')),
  from_number text NOT NULL,
  to_number text NOT NULL,
  user_id uuid REFERENCES users,
  person_id uuid REFERENCES people,
  state text NOT NULL CHECK (state IN ('ringing', 'answered', 'ended', 'missed')),
  started_at timestamptz NOT NULL,
  answered_at timestamptz,
  ended_at timestamptz,
  transcript text,
  note text NOT NULL DEFAULT '',
  capture_id uuid REFERENCES captures,
  saved_at timestamptz
);
CREATE INDEX calls_user ON calls (user_id, started_at DESC);

CREATE TABLE forms (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  slug text NOT NULL UNIQUE CHECK (slug ~ '^[a-z0-9-]{1,60}$'),
  name text NOT NULL CHECK (name <> ''),
  kind text NOT NULL CHECK (kind IN ('public', 'desk')),
  recognise text NOT NULL CHECK (recognise IN ('email', 'phone', 'both', 'ask')),
  fields jsonb NOT NULL,
  consent text NOT NULL DEFAULT '',
  thanks text NOT NULL DEFAULT '',
  owner_id uuid REFERENCES users,
  list_id uuid REFERENCES lists,
  tags text[] NOT NULL DEFAULT '{}',
  source text NOT NULL,
  lead_status text NOT NULL DEFAULT 'new' CHECK (lead_status IN ('new', 'working', 'none')),
  files_itself boolean NOT NULL DEFAULT false,
  active boolean NOT NULL DEFAULT true,
  created_at timestamptz NOT NULL
);
CREATE TABLE form_submissions (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  form_id uuid NOT NULL REFERENCES forms,
  capture_id uuid NOT NULL REFERENCES captures,
  person_id uuid REFERENCES people,
  user_id uuid REFERENCES users,
  submitted_at timestamptz NOT NULL,
  email text,
  confirm_hash text UNIQUE,
  confirmed_at timestamptz
);
CREATE INDEX form_submissions_person ON form_submissions (person_id);
CREATE INDEX form_submissions_capture ON form_submissions (capture_id);

CREATE TABLE import_shapes (
  key text PRIMARY KEY,
  mapping jsonb NOT NULL,
  used_at timestamptz NOT NULL
);
CREATE TABLE imports (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL,
  created_by uuid NOT NULL REFERENCES users,
  created_at timestamptz NOT NULL,
  raw bytea NOT NULL,
  kind text NOT NULL CHECK (kind IN ('table', 'cards')),
  reading jsonb,
  mapping jsonb,
  choices jsonb NOT NULL DEFAULT '{}',
  state text NOT NULL CHECK (state IN ('reading', 'mapping', 'previewing', 'previewed', 'running', 'paused', 'done', 'undoing', 'undone', 'failed')),
  total integer NOT NULL DEFAULT 0,
  done integer NOT NULL DEFAULT 0,
  counts jsonb NOT NULL DEFAULT '{}',
  seen_until bigint NOT NULL DEFAULT 0,
  trouble text NOT NULL DEFAULT '',
  finished_at timestamptz
);
CREATE TABLE import_rows (
  import_id uuid NOT NULL REFERENCES imports ON DELETE CASCADE,
  row integer NOT NULL,
  verdict text NOT NULL CHECK (verdict IN ('new', 'same', 'maybe', 'unusable')),
  person_id uuid,
  data jsonb NOT NULL,
  reason text NOT NULL DEFAULT '',
  outcome text CHECK (outcome IN ('made', 'changed', 'left alone', 'rejected')),
  before jsonb,
  PRIMARY KEY (import_id, row)
);
CREATE INDEX import_rows_person ON import_rows (person_id) WHERE outcome IN ('made', 'changed');
CREATE INDEX import_rows_open ON import_rows (import_id, row) WHERE outcome IS NULL;

CREATE TABLE mailboxes (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  address text NOT NULL,
  host text NOT NULL,
  port integer NOT NULL,
  secure boolean NOT NULL,
  username text NOT NULL,
  sealed text NOT NULL,
  choice text NOT NULL DEFAULT 'all' CHECK (choice IN ('all', 'ask', 'none')),
  never text[] NOT NULL DEFAULT '{}',
  state text NOT NULL DEFAULT 'new' CHECK (state IN ('new', 'reading', 'current', 'down')),
  trouble text NOT NULL DEFAULT '',
  read_at timestamptz,
  created_at timestamptz NOT NULL,
  UNIQUE (user_id, address)
);
CREATE TABLE mailbox_folders (
  mailbox_id uuid NOT NULL REFERENCES mailboxes ON DELETE CASCADE,
  path text NOT NULL,
  uid_validity bigint NOT NULL,
  uid_next bigint NOT NULL,
  PRIMARY KEY (mailbox_id, path)
);
CREATE TABLE mailbox_messages (
  mailbox_id uuid NOT NULL REFERENCES mailboxes ON DELETE CASCADE,
  path text NOT NULL,
  uid_validity bigint NOT NULL,
  uid bigint NOT NULL,
  message_id text,
  address text NOT NULL,
  name text NOT NULL DEFAULT '',
  sent_by_us boolean NOT NULL,
  at timestamptz NOT NULL,
  filed boolean NOT NULL DEFAULT false,
  PRIMARY KEY (mailbox_id, path, uid_validity, uid, address)
);
CREATE INDEX mailbox_messages_address ON mailbox_messages (mailbox_id, address);
`;
