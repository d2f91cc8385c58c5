import { columnsOf, hidden, policy } from './visibility/kinds';

/**
 * Tasks with all that belongs to one: own kinds, a zone in which their day counts, repeats, reminders, checklists, watchers,
 * what is said about them, and who gave them; days on which nobody works; and work handed over while somebody is away.
 */
export const name = '0022-tasks';

export const up = `
ALTER TABLE users
  ADD COLUMN holidays text,
  ADD COLUMN digest_at text NOT NULL DEFAULT '08:00' CHECK (digest_at ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ADD COLUMN digest_on date,
  ADD COLUMN quiet_from text CHECK (quiet_from ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ADD COLUMN quiet_until text CHECK (quiet_until ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ADD CHECK ((quiet_from IS NULL) = (quiet_until IS NULL));
COMMENT ON COLUMN users.digest_at IS 'when the mail of the day with notices goes out, on their clock';
COMMENT ON COLUMN users.digest_on IS 'the last day on which it did';
COMMENT ON COLUMN users.quiet_from IS 'from when to when no notice is mailed, on their clock';
COMMENT ON COLUMN users.holidays IS 'whose public holidays they keep: PT, DE-BY; those of the organisation where it is null';

CREATE TABLE closed_days (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  day date NOT NULL UNIQUE,
  name text NOT NULL CHECK (name <> '')
);

CREATE TABLE task_kinds (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL CHECK (name <> ''),
  acts_as text NOT NULL CHECK (acts_as IN ('call', 'mail', 'meeting', 'visit', 'task')),
  active boolean NOT NULL DEFAULT true
);
COMMENT ON COLUMN task_kinds.acts_as IS 'as what it enters the ledger once it is done';
CREATE UNIQUE INDEX task_kinds_name ON task_kinds (lower(name));

ALTER TABLE tasks DROP CONSTRAINT tasks_kind_check;
ALTER TABLE tasks ADD CONSTRAINT tasks_kind_check CHECK (kind IN ('call', 'mail', 'meeting', 'visit', 'task'));
ALTER TABLE tasks
  ADD COLUMN kind_id uuid REFERENCES task_kinds,
  ADD COLUMN starts_at timestamptz,
  ADD COLUMN zone text NOT NULL DEFAULT 'UTC',
  ADD COLUMN priority text NOT NULL DEFAULT 'normal' CHECK (priority IN ('high', 'normal', 'low')),
  ADD COLUMN progress smallint NOT NULL DEFAULT 0 CHECK (progress BETWEEN 0 AND 100),
  ADD COLUMN notes text NOT NULL DEFAULT '',
  ADD COLUMN checklist jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN reminders jsonb NOT NULL DEFAULT '[{"days": 1, "at": "08:00"}]',
  ADD COLUMN watchers uuid[] NOT NULL DEFAULT '{}',
  ADD COLUMN repeat text,
  ADD COLUMN series_id uuid,
  ADD COLUMN first_at timestamptz,
  ADD COLUMN occurs_at timestamptz,
  ADD COLUMN given_by uuid REFERENCES users,
  ADD COLUMN declined jsonb,
  ADD COLUMN asked_after_at timestamptz,
  ADD COLUMN done_by uuid REFERENCES users,
  ADD COLUMN entry_id uuid REFERENCES ledger_entries ON DELETE SET NULL,
  ADD COLUMN asked text,
  ADD CHECK ((repeat IS NULL) = (series_id IS NULL) AND (repeat IS NULL) = (first_at IS NULL) AND (repeat IS NULL) = (occurs_at IS NULL)),
  ADD CHECK (starts_at <= due_at OR starts_at IS NULL);
COMMENT ON COLUMN tasks.zone IS 'in which its day counts';
COMMENT ON COLUMN tasks.repeat IS 'an RRULE of RFC 5545, or an ISO 8601 duration after it was done';
COMMENT ON COLUMN tasks.first_at IS 'the first of its series';
COMMENT ON COLUMN tasks.occurs_at IS 'when it is due by its repeat, before a free day or a hand moved it';
COMMENT ON COLUMN tasks.given_by IS 'who gave it to whoever does it; null where nobody else did';
COMMENT ON COLUMN tasks.declined IS 'who declined it last, when and why';
COMMENT ON COLUMN tasks.asked IS 'the sentence that asked for it';
UPDATE tasks t SET zone = u.time_zone, given_by = CASE WHEN t.created_by <> t.assignee_id THEN t.created_by END
  FROM users u WHERE u.id = coalesce(t.created_by, t.assignee_id);
CREATE INDEX tasks_given ON tasks (given_by, due_at, id) WHERE given_by IS NOT NULL AND done_at IS NULL;
CREATE INDEX tasks_given_done ON tasks (given_by, done_at DESC, id DESC) WHERE given_by IS NOT NULL AND done_at IS NOT NULL;
CREATE INDEX tasks_made ON tasks (created_by, due_at, id) WHERE created_by <> assignee_id;
CREATE INDEX tasks_kind ON tasks (kind_id) WHERE kind_id IS NOT NULL;
CREATE INDEX tasks_entry ON tasks (entry_id) WHERE entry_id IS NOT NULL;
CREATE INDEX tasks_watchers ON tasks USING gin (watchers) WHERE watchers <> '{}';

CREATE TABLE task_messages (
  id uuid PRIMARY KEY,
  task_id uuid NOT NULL REFERENCES tasks ON DELETE CASCADE,
  user_id uuid NOT NULL REFERENCES users,
  at timestamptz NOT NULL,
  words text NOT NULL CHECK (words <> ''),
  message_id text UNIQUE
);
COMMENT ON COLUMN task_messages.message_id IS 'of the mail it came in by (RFC 5322)';
CREATE INDEX task_messages_task ON task_messages (task_id, at);
${policy('task_messages', 'true', ['task_id'])}

CREATE TABLE reminders (
  task_id uuid NOT NULL REFERENCES tasks ON DELETE CASCADE,
  user_id uuid NOT NULL REFERENCES users,
  at timestamptz NOT NULL,
  told_at timestamptz,
  PRIMARY KEY (task_id, user_id, at)
);
INSERT INTO reminders (task_id, user_id, at)
SELECT t.id, t.assignee_id, r.at FROM tasks t JOIN users u ON u.id = t.assignee_id,
  LATERAL (SELECT ((t.due_at AT TIME ZONE CASE WHEN t.all_day THEN t.zone ELSE u.time_zone END)::date - 1 + time '08:00') AT TIME ZONE u.time_zone AS at) r
 WHERE t.done_at IS NULL AND r.at > now();
CREATE INDEX reminders_due ON reminders (at) WHERE told_at IS NULL;
ALTER TABLE reminders ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON reminders TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));

CREATE TABLE handovers (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  from_id uuid NOT NULL REFERENCES users,
  to_id uuid NOT NULL REFERENCES users CHECK (to_id <> from_id),
  given_by uuid NOT NULL REFERENCES users,
  given_at timestamptz NOT NULL,
  back_on date,
  returned_at timestamptz
);
COMMENT ON COLUMN handovers.back_on IS 'the day on which all of it comes back; null until somebody says so';
CREATE INDEX handovers_open ON handovers (from_id) WHERE returned_at IS NULL;
CREATE TABLE handover_items (
  handover_id uuid NOT NULL REFERENCES handovers ON DELETE CASCADE,
  task_id uuid REFERENCES tasks ON DELETE CASCADE,
  lead_id uuid REFERENCES leads ON DELETE CASCADE,
  CHECK (num_nonnulls(task_id, lead_id) = 1)
);
CREATE INDEX handover_items_of ON handover_items (handover_id);
CREATE INDEX handover_items_task ON handover_items (task_id) WHERE task_id IS NOT NULL;
CREATE INDEX handover_items_lead ON handover_items (lead_id) WHERE lead_id IS NOT NULL;
ALTER TABLE handover_items ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON handover_items TO emporikon_member
  USING ((SELECT has_reader()) AND NOT ${hidden(`r.id IN (${columnsOf('handover_items', ['task_id', 'lead_id'])})`)});

ALTER TABLE notices DROP CONSTRAINT notices_kind_check;
ALTER TABLE notices ADD CONSTRAINT notices_kind_check CHECK (kind IN
  ('mention', 'given', 'done', 'moved', 'passed on', 'owner', 'declined', 'taken back', 'answered', 'asked after', 'reminder', 'handed over'));
ALTER TABLE notices ADD COLUMN for_digest boolean NOT NULL DEFAULT false;
CREATE INDEX notices_for_digest ON notices (user_id, at) WHERE for_digest;
CREATE TABLE notice_choices (
  user_id uuid NOT NULL REFERENCES users,
  kind text NOT NULL,
  mail text NOT NULL CHECK (mail IN ('at once', 'digest', 'off')),
  browser boolean NOT NULL,
  PRIMARY KEY (user_id, kind)
);
`;
