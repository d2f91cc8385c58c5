/** Which facts each user's cards show first. */
export const name = '0044-card-order';

export const up = `
ALTER TABLE users ADD COLUMN card_first jsonb NOT NULL DEFAULT '{}' CHECK (jsonb_typeof(card_first) = 'object');
COMMENT ON COLUMN users.card_first IS 'by kind of record the keys of the facts that stand first on a card, in order';
`;
