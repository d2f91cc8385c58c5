import pg from 'pg';

interface Column {
  table: string;
  column: string;
  type: string;
  required: boolean;
  /** The table it points to. */
  to: string | null;
  /** The checks of its table that name it. */
  checks: string;
}

const COLUMNS = `SELECT c.relname AS "table", a.attname AS "column", format_type(a.atttypid, NULL) AS type, a.attnotnull AS required,
    (SELECT k.confrelid::regclass::text FROM pg_constraint k WHERE k.contype = 'f' AND k.conrelid = c.oid AND k.conkey = ARRAY[a.attnum]) AS "to",
    coalesce((SELECT string_agg(pg_get_constraintdef(k.oid), ' ') FROM pg_constraint k WHERE k.contype = 'c' AND k.conrelid = c.oid AND a.attnum = ANY (k.conkey)), '') AS checks
  FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped AND a.attgenerated = ''
 WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace ORDER BY c.relname, a.attnum`;

/** Values that are easily lost on the way: quotes, backslashes, letters beyond ASCII, all digits, all microseconds. */
const OF_TYPE: Readonly<Record<string, string>> = {
  uuid: 'gen_random_uuid()',
  text: `E'é "x" \\\\ y'`,
  integer: '3',
  smallint: '3',
  bigint: '9007199254740993',
  numeric: '1234567.25',
  real: '0.3',
  'double precision': '0.1',
  boolean: 'true',
  'timestamp with time zone': `'2026-11-30T10:11:12.123456Z'`,
  date: `'2026-11-30'`,
  jsonb: `'{"a": [1, "é", 0.1], "b": null}'`,
  bytea: `'\\x00ff0a0d5c'`,
  'text[]': `ARRAY['a,b', '{"c"}']`,
  'uuid[]': 'ARRAY[gen_random_uuid()]',
  'integer[]': 'ARRAY[1, 2]',
  'timestamp with time zone[]': `ARRAY['2026-11-30T10:11:12.123456Z'::timestamptz]`,
  character: `'EUR'`,
};

/** What a check allows: the first word of a list, or a number of a hash. */
function allowedBy({ column, checks, type }: Column): string | null {
  const listed = new RegExp(`\\(${column} = ANY \\(ARRAY\\[('[^']*')`).exec(checks);
  if (listed) return listed[1] ?? null;
  return type === 'jsonb' && checks.includes('array') ? "'[]'" : null;
}

/** Where a check asks for more than a type says. */
const SPECIAL: Readonly<Record<string, string>> = {
  'allowed_hosts.host': "'server.example:443'",
  'handovers.to_id': '(SELECT id FROM users ORDER BY id::text DESC LIMIT 1)',
  'handover_items.task_id': '(SELECT id FROM tasks LIMIT 1)',
  'kept_apart.one': "'00000000-0000-4000-8000-000000000001'",
  'kept_apart.other': "'00000000-0000-4000-8000-000000000002'",
  'letter_files.sha256': '(SELECT sha256 FROM file_contents LIMIT 1)',
  'look_up_purses.month': "'2026-11'",
  'places.precision': "'town'",
  'visibility_defaults.source': 'NULL',
};

function valueOf(column: Column): string | null {
  const special = SPECIAL[`${column.table}.${column.column}`];
  if (special) return special;
  if (column.to) return column.required ? `(SELECT id FROM ${column.to} ORDER BY id::text LIMIT 1)` : 'NULL';
  return allowedBy(column) ?? OF_TYPE[column.type] ?? null;
}

/**
 * Puts a row into every table that has none, with values by the types of its columns, so that what is said of every table
 * is tried on every table. Triggers stand aside; what refers to what is true.
 * @returns the tables that could not be filled
 */
export async function fillTables(url: string): Promise<string[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query('SET session_replication_role = replica');
    const { rows } = await client.query<Column>(COLUMNS);
    const tables = new Map<string, Column[]>();
    for (const row of rows) tables.set(row.table, [...(tables.get(row.table) ?? []), row]);
    const isEmpty = async (table: string): Promise<boolean> =>
      (await client.query(`SELECT 1 FROM ${table} LIMIT 1`)).rows.length === 0;
    const left = new Set<string>();
    for (const table of tables.keys()) if (await isEmpty(table)) left.add(table);
    // A table that points to another one that is empty is filled after that one.
    for (let before = -1; before !== left.size;) {
      before = left.size;
      for (const table of left) {
        const filled = (tables.get(table) ?? []).flatMap((column) => {
          const value = valueOf(column);
          return value === null ? [] : [{ name: column.column, value }];
        });
        const sql = `INSERT INTO ${table} (${filled.map(({ name }) => `"${name}"`).join(', ')}) OVERRIDING SYSTEM VALUE VALUES (${filled.map(({ value }) => value).join(', ')})`;
        const isIn = await client.query(sql).then(
          () => true,
          () => false,
        );
        if (isIn) left.delete(table);
      }
    }
    return [...left];
  } finally {
    await client.end();
  }
}
