/** Letters to somebody: drafts, what goes out and what came of it; templates, signatures, and where each user's mail goes out. */
export const name = '0053-letters';

const OWN = '(SELECT has_reader()) AND';
const index = (column: string): string =>
  `CREATE INDEX letters_${column} ON letters (${column}) WHERE ${column} IS NOT NULL;`;

export const up = `
ALTER TABLE captures DROP CONSTRAINT captures_came_by_check,
  ADD CONSTRAINT captures_came_by_check CHECK (came_by IN ('upload', 'paste', 'post', 'api', 'clipper', 'fetch', 'exchange', 'form', 'mailbox', 'letter'));

ALTER TABLE notices DROP CONSTRAINT notices_kind_check;
ALTER TABLE notices ADD CONSTRAINT notices_kind_check CHECK (kind IN
  ('mention', 'given', 'done', 'moved', 'passed on', 'owner', 'declined', 'taken back', 'answered', 'asked after', 'reminder', 'handed over',
   'invited', 'coming', 'letter'));

CREATE TABLE letter_templates (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  owner_id uuid NOT NULL REFERENCES users,
  shared boolean NOT NULL DEFAULT false,
  folder text NOT NULL DEFAULT '',
  name text NOT NULL CHECK (name <> ''),
  shortcut text CHECK (shortcut ~ '^[[:alnum:]_-]{1,30}$'),
  subject text NOT NULL DEFAULT '',
  html text NOT NULL DEFAULT '',
  updated_at timestamptz NOT NULL
);
COMMENT ON COLUMN letter_templates.shortcut IS 'typed behind a sign in a letter, it brings the template';
CREATE UNIQUE INDEX letter_templates_shared ON letter_templates (lower(shortcut)) WHERE shared AND shortcut IS NOT NULL;
CREATE UNIQUE INDEX letter_templates_own ON letter_templates (owner_id, lower(shortcut)) WHERE NOT shared AND shortcut IS NOT NULL;
ALTER TABLE letter_templates ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON letter_templates TO emporikon_member USING (${OWN} (shared OR owner_id = (SELECT reader())));

CREATE TABLE letters (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  author_id uuid NOT NULL REFERENCES users,
  state text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'waiting', 'sent', 'failed')),
  subject text NOT NULL DEFAULT '',
  html text NOT NULL DEFAULT '',
  person_id uuid REFERENCES people,
  company_id uuid REFERENCES companies,
  lead_id uuid REFERENCES leads,
  deal_id uuid REFERENCES deals,
  project_id uuid REFERENCES projects,
  case_id uuid REFERENCES cases,
  answers_id uuid REFERENCES captures ON DELETE SET NULL,
  in_reply_to text,
  refs text[] NOT NULL DEFAULT '{}',
  template_id uuid REFERENCES letter_templates ON DELETE SET NULL,
  follow_up jsonb,
  follow_up_task_id uuid REFERENCES tasks ON DELETE SET NULL,
  message_id text NOT NULL UNIQUE,
  capture_id uuid REFERENCES captures ON DELETE SET NULL,
  leaves_at timestamptz,
  sent_at timestamptz,
  trouble text NOT NULL DEFAULT '',
  created_at timestamptz NOT NULL,
  updated_at timestamptz NOT NULL
);
COMMENT ON COLUMN letters.answers_id IS 'the message that it answers or hands on';
COMMENT ON COLUMN letters.refs IS 'Message-IDs of the thread, oldest first';
COMMENT ON COLUMN letters.leaves_at IS 'when it goes out; until then it can be taken back';
COMMENT ON COLUMN letters.capture_id IS 'what was sent, as it stands in the ledger';
CREATE INDEX letters_author ON letters (author_id, updated_at DESC, id DESC);
${['person_id', 'company_id', 'lead_id', 'deal_id', 'project_id', 'case_id', 'answers_id', 'template_id', 'follow_up_task_id', 'capture_id'].map(index).join('\n')}
ALTER TABLE letters ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON letters TO emporikon_member USING (${OWN} author_id = (SELECT reader()));

CREATE TABLE letter_recipients (
  id uuid PRIMARY KEY,
  letter_id uuid NOT NULL REFERENCES letters ON DELETE CASCADE,
  position integer NOT NULL,
  way text NOT NULL CHECK (way IN ('to', 'cc', 'bcc')),
  person_id uuid REFERENCES people,
  name text NOT NULL DEFAULT '',
  address text NOT NULL,
  capture_id uuid REFERENCES captures ON DELETE SET NULL,
  state text CHECK (state IN ('sent', 'delivered', 'delayed', 'full', 'gone', 'refused', 'complaint')),
  status text NOT NULL DEFAULT '',
  words text NOT NULL DEFAULT '',
  told_at timestamptz,
  away_until date,
  answered_at timestamptz
);
COMMENT ON COLUMN letter_recipients.state IS 'what mail servers said of it; null until it is sent';
COMMENT ON COLUMN letter_recipients.status IS 'code of RFC 3463';
CREATE INDEX letter_recipients_letter ON letter_recipients (letter_id, position);
CREATE INDEX letter_recipients_person ON letter_recipients (person_id) WHERE person_id IS NOT NULL;
CREATE INDEX letter_recipients_address ON letter_recipients (lower(address), told_at);
CREATE INDEX letter_recipients_capture ON letter_recipients (capture_id) WHERE capture_id IS NOT NULL;
ALTER TABLE letter_recipients ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON letter_recipients TO emporikon_member USING (${OWN} (
  EXISTS (SELECT 1 FROM letters l WHERE l.id = letter_id) OR EXISTS (SELECT 1 FROM captures c WHERE c.id = capture_id)
));

CREATE TABLE letter_files (
  id uuid PRIMARY KEY,
  letter_id uuid NOT NULL REFERENCES letters ON DELETE CASCADE,
  name text NOT NULL,
  sha256 text NOT NULL REFERENCES file_contents,
  added_at timestamptz NOT NULL
);
CREATE INDEX letter_files_letter ON letter_files (letter_id, added_at, id);
CREATE INDEX letter_files_content ON letter_files (sha256);
ALTER TABLE letter_files ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON letter_files TO emporikon_member USING (EXISTS (SELECT 1 FROM letters l WHERE l.id = letter_id));

CREATE FUNCTION template_answers(since timestamptz) RETURNS TABLE (template_id uuid, sent bigint, answered bigint)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public ROWS 100 AS $$
  SELECT l.template_id, count(*), count(*) FILTER (WHERE EXISTS (
      SELECT 1 FROM letter_recipients r WHERE r.letter_id = l.id AND r.answered_at IS NOT NULL))
    FROM letters l WHERE l.template_id IS NOT NULL AND l.state = 'sent' AND l.sent_at >= since GROUP BY l.template_id
$$;
COMMENT ON FUNCTION template_answers IS 'how many letters of everybody were made from each template, and how many of them were answered';

CREATE TABLE signatures (
  user_id uuid PRIMARY KEY REFERENCES users,
  version integer NOT NULL DEFAULT 1,
  html text NOT NULL DEFAULT '',
  picture bytea,
  picture_type text CHECK (picture_type IN ('image/png', 'image/jpeg', 'image/gif'))
);
ALTER TABLE signatures ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON signatures TO emporikon_member USING (${OWN} user_id = (SELECT reader()));

CREATE TABLE submissions (
  user_id uuid PRIMARY KEY REFERENCES users,
  version integer NOT NULL DEFAULT 1,
  host text NOT NULL,
  port integer NOT NULL,
  secure boolean NOT NULL,
  username text NOT NULL,
  sealed text NOT NULL,
  state text NOT NULL DEFAULT 'new' CHECK (state IN ('new', 'works', 'down', 'refused')),
  trouble text NOT NULL DEFAULT '',
  tried_at timestamptz
);
COMMENT ON TABLE submissions IS 'the server that takes a user''s own mail (RFC 6409)';
ALTER TABLE submissions ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON submissions TO emporikon_member USING (${OWN} user_id = (SELECT reader()));

CREATE TABLE mail_domains (
  domain text PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  selector text NOT NULL,
  sealed text NOT NULL,
  public_key text NOT NULL,
  created_at timestamptz NOT NULL
);
COMMENT ON TABLE mail_domains IS 'keys by which mail of a domain of ours is signed (RFC 6376)';
`;
