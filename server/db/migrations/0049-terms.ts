/** Standings, lead statuses and kinds of companies of an organisation's own, each of which counts as a built-in one. */
export const name = '0049-terms';

const BUILT_IN = {
  standing: ['stranger', 'prospect', 'customer', 'past customer', 'partner', 'personal'],
  leadStatus: ['new', 'working', 'qualified', 'converted', 'parked', 'dropped'],
  companyKind: ['firm', 'household'],
};
const CALLED: Readonly<Record<string, string>> = { firm: 'company' };
const rows = Object.entries(BUILT_IN).flatMap(([list, keys]) =>
  keys.map(
    (key, at) => `(gen_random_uuid(), '${list}', '${key}', '${CALLED[key] ?? key}', '${key}', ${at + 1})`,
  ),
);
const counts = Object.entries(BUILT_IN).map(
  ([list, keys]) => `(list = '${list}' AND counts_as IN ('${keys.join("', '")}'))`,
);

/** A record keeps the built-in term in its own column, and beside it which of the organisation's own it is. */
const held = (table: string, column: string): string => `
ALTER TABLE ${table} ADD COLUMN ${column}_term text CHECK (${column}_term <> ${column}),
  ADD CONSTRAINT ${table}_${column}_term FOREIGN KEY (${column}_term, ${column}) REFERENCES terms (key, counts_as);
CREATE INDEX ${table}_${column}_term ON ${table} (${column}_term) WHERE ${column}_term IS NOT NULL;`;

export const up = `
CREATE TABLE terms (
  id uuid PRIMARY KEY,
  version integer NOT NULL DEFAULT 1,
  list text NOT NULL CHECK (list IN ('${Object.keys(BUILT_IN).join("', '")}')),
  key text NOT NULL UNIQUE,
  name text NOT NULL CHECK (name <> ''),
  counts_as text NOT NULL,
  position integer NOT NULL,
  retired_at timestamptz,
  UNIQUE (key, counts_as),
  CONSTRAINT terms_counts_as CHECK (${counts.join(' OR ')}),
  CONSTRAINT terms_built_in CHECK (key <> counts_as OR retired_at IS NULL)
);
COMMENT ON COLUMN terms.counts_as IS 'what it is to the program; a built-in term counts as itself';
CREATE UNIQUE INDEX terms_name ON terms (list, lower(name));
INSERT INTO terms (id, list, key, name, counts_as, position) VALUES
${rows.join(',\n')};
${held('people', 'standing')}
${held('leads', 'status')}
${held('companies', 'kind')}
DROP INDEX people_standing;
CREATE INDEX people_standing ON people ((coalesce(standing_term, standing)), id);
DROP INDEX leads_status_since;
CREATE INDEX leads_status_since ON leads ((coalesce(status_term, status)), created_at DESC, id DESC);
`;
