/** Who has to sign in with a code as well as the password. */
export const name = '0048-sign-in-rules';

export const up = `
CREATE TABLE sign_in_rules (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  codes text NOT NULL DEFAULT 'by choice' CHECK (codes IN ('by choice', 'managers', 'everybody'))
);
COMMENT ON TABLE sign_in_rules IS 'one row: who signs in with a code of an authenticator app besides the password';
CREATE UNIQUE INDEX sign_in_rules_one ON sign_in_rules ((true));
INSERT INTO sign_in_rules (id) VALUES (gen_random_uuid());
ALTER TABLE sessions ADD COLUMN by_provider boolean NOT NULL DEFAULT false;
COMMENT ON COLUMN sessions.by_provider IS 'begun by a provider of sign-in, whose own second step counts';
CREATE FUNCTION must_add_code(who uuid, role text) RETURNS boolean LANGUAGE sql STABLE AS $$
  SELECT EXISTS (SELECT 1 FROM sign_in_rules r WHERE r.codes = 'everybody' OR (r.codes = 'managers' AND role <> 'rep'))
     AND NOT EXISTS (SELECT 1 FROM second_factors f WHERE f.user_id = who AND f.confirmed_at IS NOT NULL)
$$;
`;
