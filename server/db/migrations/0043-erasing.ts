/** People are erased for good: their row stays, empty, so that what was counted stays counted, and a keyed hash tells who it was. */
export const name = '0043-erasing';

export const up = `
ALTER TABLE people ADD COLUMN erased_at timestamptz;
ALTER TABLE people ADD CONSTRAINT people_erased_empty CHECK (erased_at IS NULL OR (
  full_name = 'Erased person' AND given_name = '' AND family_name = '' AND name_prefix = '' AND department = ''
  AND num_nonnulls(job_title, address, time_zone, company_id, birthday, background, address_type, address_parts, owner_id) = 0
  AND custom = '{}' AND tags = '{}' AND inactive_since IS NOT NULL));

CREATE TABLE erasures (
  id uuid PRIMARY KEY,
  person_id uuid NOT NULL,
  at timestamptz NOT NULL,
  erased_by uuid REFERENCES users,
  reason text NOT NULL CHECK (reason IN ('asked', 'time')),
  note text NOT NULL DEFAULT '',
  counts jsonb NOT NULL
);
COMMENT ON TABLE erasures IS 'that somebody was erased, by whom, why and how much; not who it was';
CREATE INDEX erasures_newest ON erasures (at DESC, id DESC);
CREATE UNIQUE INDEX erasures_person ON erasures (person_id);
CREATE INDEX erasures_erased_by ON erasures (erased_by);

CREATE TABLE erased_marks (
  mark text NOT NULL,
  erasure_id uuid NOT NULL REFERENCES erasures,
  PRIMARY KEY (mark, erasure_id)
);
COMMENT ON TABLE erased_marks IS 'keyed hashes of the addresses, numbers and names of erased people, so that no import brings them back';
CREATE INDEX erased_marks_erasure ON erased_marks (erasure_id);

CREATE TABLE erasing_salt (
  id boolean PRIMARY KEY DEFAULT true CHECK (id),
  salt text NOT NULL
);
INSERT INTO erasing_salt (salt) VALUES (replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''));

ALTER TABLE events ADD COLUMN erased_at timestamptz;
COMMENT ON COLUMN events.erased_at IS 'since when what it says of an erased person is gone; such an event is not undone';
CREATE OR REPLACE FUNCTION events_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF TG_OP = 'UPDATE' AND current_setting('emporikon.erasing', true) = 'on' AND NEW.erased_at IS NOT NULL
     AND (NEW.seq, NEW.id, NEW.at, NEW.command, NEW.tx) = (OLD.seq, OLD.id, OLD.at, OLD.command, OLD.tx)
     AND (NEW.actor_id, NEW.undoes, NEW.cause_id) IS NOT DISTINCT FROM (OLD.actor_id, OLD.undoes, OLD.cause_id)
     AND jsonb_array_length(NEW.changes) <= jsonb_array_length(OLD.changes) THEN
    RETURN NEW;
  END IF;
  RAISE EXCEPTION 'events are append-only';
END $$;

CREATE TABLE keeping_times (
  id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
  version integer NOT NULL DEFAULT 1,
  kind text NOT NULL UNIQUE CHECK (kind IN ('set aside', 'call texts', 'strangers', 'quiet', 'import files')),
  months integer CHECK (months BETWEEN 1 AND 240)
);
COMMENT ON TABLE keeping_times IS 'after how many months what kind of personal data goes; null keeps it';
INSERT INTO keeping_times (kind) VALUES ('set aside'), ('call texts'), ('strangers'), ('quiet'), ('import files');
`;
