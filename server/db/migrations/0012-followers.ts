/** Why an event came about, what followed it, and which events a preview has seen. */
export const name = '0012-followers';

export const up = `
ALTER TABLE events ADD COLUMN cause_id uuid, ADD COLUMN depth smallint NOT NULL DEFAULT 0 CHECK (depth BETWEEN 0 AND 8),
  ADD COLUMN tx xid8 NOT NULL DEFAULT '0';
ALTER TABLE events ALTER COLUMN tx SET DEFAULT pg_current_xact_id();
CREATE INDEX events_tx ON events (tx);
CREATE INDEX events_cause ON events (cause_id) WHERE cause_id IS NOT NULL;
COMMENT ON COLUMN events.cause_id IS 'the event that this one followed with nobody asking';
COMMENT ON COLUMN events.depth IS 'how many events led to it; 0 for what a person did';
COMMENT ON COLUMN events.tx IS 'its transaction, by which a snapshot tells whether it had seen the event; numbers are no order';

CREATE TABLE followed (
  event_id uuid NOT NULL,
  follower text NOT NULL,
  at timestamptz NOT NULL,
  PRIMARY KEY (event_id, follower)
);
COMMENT ON TABLE followed IS 'which followers have done their part after an event, so that each does it once';

ALTER TABLE imports ADD COLUMN seen pg_snapshot;
ALTER TABLE imports DROP COLUMN seen_until;
COMMENT ON COLUMN imports.seen IS 'what was committed when its preview began; null where that cannot be told';

-- Every row of an event with the records it belongs to; whose it is and in which stage is nothing it belongs to. What does not fit into a notice is read from the event by whoever
-- hears of it.
CREATE FUNCTION event_touched(changes jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(jsonb_agg(DISTINCT jsonb_build_object('table', change->>'table', 'id', change->>'id', 'of', (
           SELECT coalesce(jsonb_agg(DISTINCT value), '[]')
             FROM jsonb_each_text(coalesce(nullif(change->'after', 'null'), nullif(change->'before', 'null'), '{}')) one (key, value)
            WHERE key LIKE '%Id' AND key NOT IN ('ownerId', 'actorId', 'assigneeId', 'userId', 'stageId', 'pipelineId', 'kindId') AND value ~ '^[0-9a-f]{8}-[0-9a-f-]{27}$'))), '[]')
    FROM jsonb_array_elements(changes) change
$$;
CREATE OR REPLACE FUNCTION events_notify() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE notice jsonb := jsonb_build_object('id', NEW.id, 'command', NEW.command, 'actorId', NEW.actor_id, 'roles', NEW.roles);
DECLARE whole text := (notice || jsonb_build_object('touched', event_touched(NEW.changes)))::text;
BEGIN
  PERFORM pg_notify('emporikon_events', CASE WHEN octet_length(whole) < 7500 THEN whole ELSE (notice || '{"isLong":true}')::text END);
  RETURN NEW;
END $$;
`;
