/** What somebody changed is looked up by who it was, newest first. */
export const name = '0026-history';

export const up = `
CREATE INDEX events_actor ON events (actor_id, seq DESC);
`;
