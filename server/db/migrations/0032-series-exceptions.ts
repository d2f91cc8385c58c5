/**
 * Single times of a series may be left out or moved, here and in the other calendar, whose file of a series stays one file.
 * A form may open a case. The few people and companies that are important are found by themselves.
 */
export const name = '0032-series-exceptions';

export const up = `
ALTER TABLE tasks ADD COLUMN left_out timestamptz[] NOT NULL DEFAULT '{}';
COMMENT ON COLUMN tasks.left_out IS 'times of its repeat at which it does not come: left out, or tasks of their own';
DO $$
DECLARE known text;
BEGIN
  SELECT conname INTO STRICT known FROM pg_constraint
   WHERE conrelid = 'tasks'::regclass AND contype = 'c' AND pg_get_constraintdef(oid) LIKE '%series_id IS NULL%first_at IS NULL%';
  EXECUTE format('ALTER TABLE tasks DROP CONSTRAINT %I', known);
END $$;
ALTER TABLE tasks ADD CONSTRAINT tasks_series_whole CHECK (
  (series_id IS NULL) = (occurs_at IS NULL) AND (repeat IS NULL) = (first_at IS NULL) AND (repeat IS NULL OR series_id IS NOT NULL));
CREATE INDEX tasks_series ON tasks (series_id) WHERE series_id IS NOT NULL;
ALTER TABLE forms DROP CONSTRAINT forms_lead_status_check;
ALTER TABLE forms ADD CONSTRAINT forms_lead_status_check CHECK (lead_status IN ('new', 'working', 'case', 'none'));
CREATE INDEX people_important ON people (id) WHERE is_important;
CREATE INDEX companies_important ON companies (id) WHERE is_important;
ALTER TABLE caldav_events ADD COLUMN series_id uuid, ADD COLUMN anchor text;
COMMENT ON COLUMN caldav_events.series_id IS 'of a series that was made here: its tasks';
COMMENT ON COLUMN caldav_events.anchor IS 'when that series begins there';
UPDATE caldav_events e SET series_id = t.series_id, anchor = e.base ->> 'start'
  FROM tasks t WHERE t.id = e.task_id AND e.is_ours AND e.rule IS NOT NULL AND t.repeat IS NOT NULL;
`;
