import { hidden, policy } from './visibility/kinds';

/**
 * One history for the team: more kinds of entries, the whole of what was said in them and what was read of it, where it was
 * said, and whose turn it is with each person, kept.
 */
export const name = '0020-one-history';

export const up = `
ALTER TABLE ledger_entries DROP CONSTRAINT ledger_entries_kind_check;
ALTER TABLE ledger_entries ADD CONSTRAINT ledger_entries_kind_check
  CHECK (kind IN ('mail', 'call', 'meeting', 'visit', 'form', 'file', 'task', 'note', 'change', 'quote'));
ALTER TABLE ledger_entries DROP CONSTRAINT ledger_entries_outcome_check;
ALTER TABLE ledger_entries ADD CONSTRAINT ledger_entries_outcome_check CHECK (outcome IN ('spoke', 'no answer', 'voicemail', 'moved'));
ALTER TABLE ledger_entries
  ADD COLUMN version integer NOT NULL DEFAULT 1,
  ADD COLUMN said text NOT NULL DEFAULT '',
  ADD COLUMN reading jsonb,
  ADD COLUMN settles boolean NOT NULL DEFAULT false,
  ADD COLUMN pinned_at timestamptz,
  ADD COLUMN edited_at timestamptz;
COMMENT ON COLUMN ledger_entries.said IS 'the whole of what was said, where headline and body are less';
COMMENT ON COLUMN ledger_entries.reading IS 'what it leaves open and settles; see core/ledger/entryReading.ts';
COMMENT ON COLUMN ledger_entries.settles IS 'somebody marked here that nothing is left to answer';
UPDATE ledger_entries SET reading = jsonb_build_object('version', 0, 'said', jsonb_build_object('asks', asks)) WHERE asks <> '[]';
ALTER TABLE ledger_entries DROP COLUMN asks;
UPDATE ledger_entries n SET said = left(c.message ->> 'text', 20000) FROM captures c
 WHERE c.id = n.capture_id AND n.kind = 'mail' AND c.kind = 'email';
UPDATE ledger_entries n SET kind = 'form' FROM captures c WHERE c.id = n.capture_id AND c.kind = 'form' AND n.kind = 'note';

ALTER TABLE ledger_links ADD COLUMN at_company uuid REFERENCES companies, ADD COLUMN is_copied boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN ledger_links.at_company IS 'where the person worked when it was said';
COMMENT ON COLUMN ledger_links.is_copied IS 'the person was only sent a copy of it';
UPDATE ledger_links k SET at_company = coalesce(
    (SELECT e.company_id FROM employments e WHERE e.person_id = p.id AND e.until_day > k.at::date ORDER BY e.until_day LIMIT 1), p.company_id)
  FROM people p WHERE p.id = k.person_id;
CREATE INDEX ledger_links_at_company ON ledger_links (at_company, at DESC, entry_id DESC) WHERE at_company IS NOT NULL;
CREATE INDEX ledger_links_at_none ON ledger_links (person_id, at DESC, entry_id DESC) WHERE person_id IS NOT NULL AND at_company IS NULL;
CREATE OR REPLACE FUNCTION ledger_links_take_time() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  SELECT at INTO NEW.at FROM ledger_entries WHERE id = NEW.entry_id;
  IF NEW.person_id IS NOT NULL AND NEW.at_company IS NULL THEN
    SELECT company_id INTO NEW.at_company FROM people WHERE id = NEW.person_id;
  END IF;
  RETURN NEW;
END $$;

CREATE TABLE turns (
  person_id uuid PRIMARY KEY,
  turn text NOT NULL CHECK (turn IN ('ours', 'theirs', 'nobody')),
  since timestamptz,
  because text NOT NULL,
  spoken_at timestamptz,
  touched_at timestamptz,
  is_live boolean NOT NULL
);
COMMENT ON TABLE turns IS 'whose turn it is with each person, and when they were spoken with and touched last';
COMMENT ON COLUMN turns.is_live IS 'not everybody sees all that was said, so that it is read anew for whoever asks';
${policy('turns', `NOT ${hidden('r.id = turns.person_id')}`, ['person_id'])}
CREATE FUNCTION turns_leave() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  DELETE FROM turns t USING gone g WHERE t.person_id = g.id;
  RETURN NULL;
END $$;
CREATE TRIGGER turns_leave AFTER DELETE ON people REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION turns_leave();
CREATE FUNCTION has_restricted_entries(whose uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
  SELECT EXISTS (SELECT 1 FROM ledger_links k JOIN restricted r ON r.id = k.entry_id WHERE k.person_id = whose)
$$;
CREATE FUNCTION turns_forget() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
  UPDATE turns t SET is_live = true, turn = 'nobody', since = NULL, because = '', spoken_at = NULL, touched_at = NULL
    FROM ledger_links k WHERE k.entry_id = NEW.id AND k.person_id = t.person_id;
  RETURN NULL;
END $$;
CREATE TRIGGER turns_forget AFTER UPDATE OF seen_by ON ledger_entries FOR EACH ROW
  WHEN (NEW.seen_by IS NOT NULL) EXECUTE FUNCTION turns_forget();

CREATE TABLE ledger_revisions (
  id uuid PRIMARY KEY,
  entry_id uuid NOT NULL REFERENCES ledger_entries ON DELETE CASCADE,
  headline text NOT NULL,
  body text NOT NULL,
  kind text NOT NULL,
  at timestamptz NOT NULL,
  outcome text,
  until timestamptz NOT NULL
);
COMMENT ON COLUMN ledger_revisions.until IS 'when it was changed to what came next';
CREATE INDEX ledger_revisions_entry ON ledger_revisions (entry_id, until);
${policy('ledger_revisions', `NOT ${hidden('r.id = ledger_revisions.entry_id')}`, ['entry_id'])}

CREATE TABLE annotations (
  id uuid PRIMARY KEY,
  entry_id uuid NOT NULL REFERENCES ledger_entries ON DELETE CASCADE,
  user_id uuid NOT NULL REFERENCES users,
  words text NOT NULL,
  updated_at timestamptz NOT NULL,
  UNIQUE (entry_id, user_id)
);
COMMENT ON TABLE annotations IS 'what somebody wrote beside an entry for themselves alone';
ALTER TABLE annotations ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON annotations TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));

CREATE TABLE looks (
  user_id uuid NOT NULL REFERENCES users,
  record_id uuid NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (user_id, record_id)
);
COMMENT ON TABLE looks IS 'when each user looked at a record last';
ALTER TABLE looks ENABLE ROW LEVEL SECURITY;
CREATE POLICY own ON looks TO emporikon_member USING ((SELECT has_reader()) AND user_id = (SELECT reader()));
CREATE INDEX ledger_entries_pinned ON ledger_entries (id) WHERE pinned_at IS NOT NULL;
`;
