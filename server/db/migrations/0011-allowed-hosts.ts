/** Servers on private addresses that an admin lets people reach. */
export const name = '0011-allowed-hosts';

export const up = `
CREATE TABLE allowed_hosts (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  host text NOT NULL UNIQUE CHECK (host = lower(host) AND host ~ ':([0-9]{1,5}|\\*)$')
);
COMMENT ON TABLE allowed_hosts IS 'host:port, or host:* for every port; besides those of FETCH_ALLOWED';
`;
