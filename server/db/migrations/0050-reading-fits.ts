/** How sure the reader may be, fitted to what people decided of its claims. */
export const name = '0050-reading-fits';

export const up = `
ALTER TABLE claims ADD COLUMN read_confidence real CHECK (read_confidence BETWEEN 0 AND 1);
COMMENT ON COLUMN claims.read_confidence IS 'what the reader itself gave, before it was fitted; null where that is the confidence';
CREATE INDEX captures_filed ON captures (filed_at DESC) WHERE state = 'filed';
CREATE TABLE reading_fits (
  id uuid PRIMARY KEY,
  made_at timestamptz NOT NULL,
  captures integer NOT NULL,
  fits jsonb NOT NULL
);
CREATE INDEX reading_fits_newest ON reading_fits (made_at DESC);
`;
