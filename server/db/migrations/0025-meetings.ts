import { columnsOf, hidden } from './visibility/kinds';

/**
 * Meetings: where a task takes place and who comes, what each of them was mailed and what they answered; when colleagues
 * work; and the secret address at which a calendar program reads somebody's calendar.
 */
export const name = '0025-meetings';

export const up = `
ALTER TABLE tasks ADD COLUMN place text NOT NULL DEFAULT '', ADD COLUMN is_inviting boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN tasks.is_inviting IS 'whoever comes is invited by mail, and told of changes';
CREATE INDEX tasks_calendar ON tasks (assignee_id, due_at, id);

ALTER TABLE users
  ADD COLUMN works_from text NOT NULL DEFAULT '09:00' CHECK (works_from ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ADD COLUMN works_until text NOT NULL DEFAULT '17:30' CHECK (works_until ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ADD CHECK (works_from < works_until);
COMMENT ON COLUMN users.works_from IS 'when their working day begins, on their clock';

CREATE TABLE task_people (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  task_id uuid NOT NULL REFERENCES tasks ON DELETE CASCADE,
  person_id uuid REFERENCES people,
  user_id uuid REFERENCES users,
  name text NOT NULL,
  email text NOT NULL DEFAULT '',
  answer text NOT NULL DEFAULT 'waiting' CHECK (answer IN ('waiting', 'accepted', 'tentative', 'declined')),
  answered_at timestamptz,
  comment text NOT NULL DEFAULT '',
  proposes_start timestamptz,
  proposes_end timestamptz,
  CHECK (num_nonnulls(person_id, user_id) <= 1),
  CHECK (name <> '' OR email <> ''),
  UNIQUE (task_id, person_id),
  UNIQUE (task_id, user_id)
);
COMMENT ON TABLE task_people IS 'who comes to a meeting: people, colleagues, and others by their address alone';
CREATE INDEX task_people_person ON task_people (person_id, task_id) WHERE person_id IS NOT NULL;
CREATE INDEX task_people_user ON task_people (user_id, task_id) WHERE user_id IS NOT NULL;
ALTER TABLE task_people ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON task_people TO emporikon_member
  USING ((SELECT has_reader()) AND NOT ${hidden(`r.id IN (${columnsOf('task_people', ['task_id', 'person_id'])})`)});

CREATE TABLE invitations (
  id uuid PRIMARY KEY,
  task_id uuid NOT NULL,
  email text NOT NULL,
  name text NOT NULL,
  organizer_id uuid NOT NULL REFERENCES users,
  sequence integer NOT NULL,
  told jsonb,
  sent_at timestamptz,
  UNIQUE (task_id, email)
);
COMMENT ON TABLE invitations IS 'what each address was mailed last about a meeting, also of one that is gone';
COMMENT ON COLUMN invitations.told IS 'title, time and place; null once it was called off for them';
CREATE INDEX invitations_organizer ON invitations (organizer_id);

CREATE TABLE calendar_feeds (
  user_id uuid PRIMARY KEY REFERENCES users,
  token_hash text NOT NULL UNIQUE,
  made_at timestamptz NOT NULL,
  read_at timestamptz
);
COMMENT ON TABLE calendar_feeds IS 'the secret address of a calendar, as a hash';
ALTER TABLE calendar_feeds ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON calendar_feeds TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));

ALTER TABLE notices DROP CONSTRAINT notices_kind_check;
ALTER TABLE notices ADD CONSTRAINT notices_kind_check CHECK (kind IN
  ('mention', 'given', 'done', 'moved', 'passed on', 'owner', 'declined', 'taken back', 'answered', 'asked after', 'reminder', 'handed over',
   'invited', 'coming'));
`;
