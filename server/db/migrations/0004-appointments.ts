/** A next move with a time from and to. */
export const name = '0004-appointments';

export const up = `
ALTER TABLE tasks ADD COLUMN ends_at timestamptz CHECK (ends_at > due_at);
`;
