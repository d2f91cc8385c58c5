/**
 * Calendars elsewhere that somebody's is kept in step with (CalDAV), and the address book that gets their people (CardDAV).
 */
export const name = '0030-outside-calendars';

export const up = `
CREATE TABLE caldav_links (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  user_id uuid NOT NULL REFERENCES users,
  url text NOT NULL,
  username text NOT NULL,
  sealed text NOT NULL,
  calendars jsonb NOT NULL DEFAULT '[]',
  calendar_url text,
  address_books jsonb NOT NULL DEFAULT '[]',
  address_book_url text,
  state text NOT NULL DEFAULT 'new' CHECK (state IN ('new', 'choose', 'current', 'down', 'refused', 'forgetful')),
  trouble text NOT NULL DEFAULT '',
  synced_at timestamptz,
  clashes integer NOT NULL DEFAULT 0,
  mark text NOT NULL DEFAULT '',
  read_on date,
  lease_until timestamptz,
  may_remove boolean NOT NULL DEFAULT false,
  ended_at timestamptz,
  created_at timestamptz NOT NULL,
  UNIQUE (user_id, url, username)
);
COMMENT ON TABLE caldav_links IS 'an account of a calendar server that a calendar here is kept in step with';
COMMENT ON COLUMN caldav_links.calendars IS 'those of the account: [{url, name}]';
COMMENT ON COLUMN caldav_links.clashes IS 'how many meetings were changed in both calendars, and wait for somebody to decide';
COMMENT ON COLUMN caldav_links.mark IS 'what the server calls the state of the calendar that was read last';
COMMENT ON COLUMN caldav_links.read_on IS 'the day up to which series were laid out last';
COMMENT ON COLUMN caldav_links.lease_until IS 'one process at a time';
COMMENT ON COLUMN caldav_links.may_remove IS 'whoever keeps it said that what is gone there may go here';
ALTER TABLE caldav_links ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON caldav_links TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));

CREATE TABLE caldav_objects (
  id uuid PRIMARY KEY,
  link_id uuid NOT NULL REFERENCES caldav_links ON DELETE CASCADE,
  href text NOT NULL,
  uid text NOT NULL,
  etag text NOT NULL,
  raw text NOT NULL,
  UNIQUE (link_id, href)
);
COMMENT ON TABLE caldav_objects IS 'files of the other calendar as they were read or written last';

CREATE TABLE caldav_events (
  id uuid PRIMARY KEY,
  object_id uuid NOT NULL REFERENCES caldav_objects ON DELETE CASCADE,
  occurrence text NOT NULL DEFAULT '',
  task_id uuid NOT NULL,
  is_ours boolean NOT NULL,
  base jsonb NOT NULL,
  rule text,
  clash jsonb,
  UNIQUE (object_id, occurrence)
);
COMMENT ON TABLE caldav_events IS 'the task here that an event there is';
COMMENT ON COLUMN caldav_events.base IS 'what both said last';
COMMENT ON COLUMN caldav_events.clash IS 'what the other calendar says where both changed the same, until somebody decides';
CREATE INDEX caldav_events_task ON caldav_events (task_id);

CREATE TABLE carddav_cards (
  link_id uuid NOT NULL REFERENCES caldav_links ON DELETE CASCADE,
  person_id uuid NOT NULL,
  print text NOT NULL,
  PRIMARY KEY (link_id, person_id)
);
COMMENT ON TABLE carddav_cards IS 'the cards that were written into an address book, by a print of what they say';
CREATE INDEX carddav_cards_person ON carddav_cards (person_id);
`;
