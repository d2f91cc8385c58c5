import { LIMITED_ROLE } from '../member';

/** Roles of the organisation's own, by rights, and what is not seen under them: by the database, as who may see a record is. */
export const name = '0046-roles';

/** Tables of records, and those that hold their parts: not seen by whoever sees none of those records. */
const PARTS: Readonly<Record<string, readonly string[]>> = {
  people: ['people', 'contact_points', 'employments', 'list_members'],
  companies: ['companies'],
  leads: ['leads', 'lead_answers', 'lead_scores'],
  deals: ['deals', 'deal_lines', 'deal_roles', 'deal_states', 'deal_sums', 'quotes'],
  tasks: ['tasks', 'task_messages', 'task_people'],
  projects: ['projects', 'project_people'],
  cases: ['cases'],
  ledger_entries: ['ledger_entries', 'ledger_revisions', 'files', 'file_versions'],
  captures: ['captures', 'intents'],
};

const policy = (table: string, seen: string): string =>
  `CREATE POLICY role_sees ON ${table} AS RESTRICTIVE TO emporikon_limited USING (${seen});`;
const sees = (table: string): string => `(SELECT role_sees('${table}'))`;

/** Words to find records by, counts of tags, and notices are of several kinds of records each. */
const byKind = (kinds: Readonly<Record<string, string>>): string =>
  `CASE kind ${Object.entries(kinds)
    .map(([kind, table]) => `WHEN '${kind}' THEN ${sees(table)}`)
    .join(' ')} ELSE true END`;
const FOUND = { p: 'people', c: 'companies', d: 'deals', l: 'leads' };
const COUNTED = {
  p: 'people',
  d: 'deals',
  industry: 'companies',
  country: 'companies',
  technology: 'companies',
};
const NOTICED = {
  task_id: 'tasks',
  person_id: 'people',
  company_id: 'companies',
  lead_id: 'leads',
  deal_id: 'deals',
  entry_id: 'ledger_entries',
};

export const up = `
${LIMITED_ROLE}
CREATE TABLE roles (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  name text NOT NULL CHECK (name <> ''),
  based_on text NOT NULL CHECK (based_on IN ('rep', 'manager')),
  rights text[] NOT NULL DEFAULT '{}'
);
COMMENT ON TABLE roles IS 'roles of the organisation''s own; rep, manager and admin are always there and stand in the program';
COMMENT ON COLUMN roles.based_on IS 'whether those who have it manage a team, and so see what only an owner and their managers see';
CREATE UNIQUE INDEX roles_name ON roles (lower(name));
ALTER TABLE users ADD COLUMN role_id uuid REFERENCES roles;
CREATE INDEX users_role ON users (role_id) WHERE role_id IS NOT NULL;
COMMENT ON COLUMN users.role_id IS 'a role of the organisation''s own, whose rights count; users.role is then what it is based on';
COMMENT ON COLUMN events.roles IS 'who may take it back: roles, or the one right that it takes; everybody when null';

CREATE FUNCTION role_sees(records text) RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE AS $$
  SELECT NOT (records = ANY (coalesce(nullif(current_setting('emporikon.unseen', true), ''), '{}')::text[]))
$$;
${Object.entries(PARTS)
  .flatMap(([table, parts]) => parts.map((part) => policy(part, sees(table))))
  .join('\n')}
${['find_records', 'find_words', 'find_places'].map((table) => policy(table, byKind(FOUND))).join('\n')}
${policy('claims', `(person_id IS NULL OR ${sees('people')}) AND ((company_id IS NULL AND field <> 'companyName') OR ${sees('companies')})`)}
${policy('tag_counts', byKind(COUNTED))}
${policy(
  'notices',
  Object.entries(NOTICED)
    .map(([column, table]) => `(${column} IS NULL OR ${sees(table)})`)
    .join(' AND '),
)}
-- What somebody did themselves is theirs to take back, whatever it wrote besides.
${policy(
  'events',
  `actor_id = (SELECT reader())
     OR NOT EXISTS (SELECT 1 FROM jsonb_array_elements(changes) c WHERE NOT role_sees(c ->> 'table'))`,
)}
`;
