/** A view is shown as a table, as cards, or in lanes by one of its fields. */
export const name = '0035-view-layouts';

export const up = `
ALTER TABLE views ADD COLUMN layout jsonb NOT NULL DEFAULT '{"as": "table"}';
COMMENT ON COLUMN views.layout IS 'how its records are shown: as a table, as cards, or in lanes by a field';
`;
