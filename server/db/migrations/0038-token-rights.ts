/** An access token may do less than whoever made it, and ends by itself. */
export const name = '0038-token-rights';

export const up = `
ALTER TABLE access_tokens ADD COLUMN rights text NOT NULL DEFAULT 'all' CHECK (rights IN ('all', 'read', 'capture')),
  ADD COLUMN expires_at timestamptz;
`;
