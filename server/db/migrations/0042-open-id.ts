/** Who signs in by a provider outside (OpenID Connect). */
export const name = '0042-open-id';

export const up = `
CREATE TABLE outside_identities (
  issuer text NOT NULL,
  subject text NOT NULL,
  user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
  email text NOT NULL,
  linked_at timestamptz NOT NULL,
  PRIMARY KEY (issuer, subject)
);
COMMENT ON TABLE outside_identities IS 'whose account a provider of sign-in means; the subject stays when their address changes';
CREATE INDEX outside_identities_user ON outside_identities (user_id);
`;
