/** Two records that are not one may be told apart for a reason: namesakes, or father and son. */
export const name = '0052-told-apart';

export const up = `
ALTER TABLE kept_apart ADD COLUMN how text NOT NULL DEFAULT 'different' CHECK (how IN ('different', 'namesakes', 'fatherAndSon'));
COMMENT ON COLUMN kept_apart.how IS 'different is asked again when the facts have changed; the others hold whatever the facts';
-- The two that are told apart are told of it, as whoever a row points to is.
DO $do$ BEGIN
  EXECUTE replace(pg_get_functiondef('event_touched'::regproc), $$key LIKE '%Id' AND$$, $$(key LIKE '%Id' OR key IN ('one', 'other')) AND$$);
END $do$;
`;
