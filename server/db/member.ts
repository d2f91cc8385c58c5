import type { Sequelize, Transaction } from 'sequelize';

/** Makes a role of the cluster, which may be there already. */
const makeRole = (role: string): string => `
DO $$
BEGIN
  IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = '${role}') THEN CREATE ROLE ${role} NOLOGIN; END IF;
EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL;
END $$;`;

/** The role as which everybody who is signed in works, and to which the policies apply. */
export const MEMBER_ROLE = `${makeRole('emporikon_member')}
DO $$ BEGIN EXECUTE format('GRANT emporikon_member TO %I', current_user); EXCEPTION WHEN OTHERS THEN NULL; END $$;`;

/**
 * The role of those who do not see every kind of record, to whom further policies apply (migration 0046). Everybody else
 * is spared them.
 */
export const LIMITED_ROLE = `${makeRole('emporikon_limited')}
DO $$ BEGIN
  GRANT emporikon_member TO emporikon_limited;
  EXECUTE format('GRANT emporikon_limited TO %I', current_user);
EXCEPTION WHEN OTHERS THEN NULL; END $$;`;

const RIGHTS = `
GRANT USAGE ON SCHEMA public TO emporikon_member;
GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO emporikon_member;
GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO emporikon_member;
ALTER DEFAULT PRIVILEGES IN SCHEMA public GRANT SELECT, INSERT, UPDATE, DELETE ON TABLES TO emporikon_member;
ALTER DEFAULT PRIVILEGES IN SCHEMA public GRANT USAGE ON SEQUENCES TO emporikon_member;
REVOKE INSERT, UPDATE, DELETE ON restricted, audiences, audience_members, sight_pending, migrations FROM emporikon_member;`;

/**
 * A condition that might tell of a row in an error is not looked up in an index before it is known that the row may be seen.
 * None of these can (they compare and turn around), and so an index answers. Only a superuser may say so; elsewhere these
 * questions are right, but slower.
 */
const CANNOT_TELL = `
DO $$
BEGIN
  ALTER FUNCTION pg_catalog.ts_match_vq(tsvector, tsquery) LEAKPROOF;
  ALTER FUNCTION pg_catalog.arraycontains(anyarray, anyarray) LEAKPROOF;
  ALTER FUNCTION pg_catalog.arrayoverlap(anyarray, anyarray) LEAKPROOF;
  ALTER FUNCTION pg_catalog.jsonb_contains(jsonb, jsonb) LEAKPROOF;
  ALTER FUNCTION pg_catalog.reverse(text) LEAKPROOF;
  ALTER FUNCTION pg_catalog.uuid_out(uuid) LEAKPROOF;
  ALTER FUNCTION pg_catalog.textin(cstring) LEAKPROOF;
  ALTER FUNCTION pg_catalog.textlike(text, text) LEAKPROOF;
  ALTER FUNCTION lead_openness(text) LEAKPROOF;
EXCEPTION WHEN insufficient_privilege THEN
  RAISE NOTICE 'without the rights of a superuser, searching records is slower';
END $$;`;

/**
 * Gives the role what it needs in this database. Neither rights nor what is said of built-in functions is in a backup, so that
 * it is done at every start where it is missing.
 */
export async function ensureMember(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  const [rows] = await sequelize.query(
    `SELECT has_table_privilege('emporikon_member', 'people', 'SELECT')
        AND (SELECT proleakproof FROM pg_proc WHERE oid = 'textlike(text, text)'::regprocedure) AS ready`,
    { transaction },
  );
  if ((rows[0] as { ready: boolean } | undefined)?.ready) return;
  await sequelize.query(MEMBER_ROLE + LIMITED_ROLE + RIGHTS + CANNOT_TELL, { transaction });
}
