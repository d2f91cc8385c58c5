import { QueryTypes, type Sequelize } from 'sequelize';

/** What only logs, or follows from what else there is: it may differ once a change is taken back. */
const LOGS = [
  'events',
  'merges',
  'worked_with',
  'migrations',
  'sessions',
  'idempotency_keys',
  'find_vocabulary',
  'find_spellings',
  'find_unspelt',
  'kept_apart',
  // Where records are is made anew in the background.
  'places_due',
  'places_asked',
];
/** Tables whose rows add up, and the columns that add up. */
const ADDING: Record<string, readonly string[]> = {
  deal_sums: ['deals', 'plain', 'weighted'],
  tag_counts: ['records'],
};

const rowsOf = (table: string): string => {
  const sums = ADDING[table];
  if (!sums) return `SELECT to_jsonb(t.*) - 'version' - 'updated_at' AS row FROM ${table} t ORDER BY 1`;
  const keys = `(to_jsonb(t.*) - '{${sums.join(',')}}'::text[])`;
  return `SELECT ${keys} || jsonb_build_object(${sums.map((sum) => `'${sum}', sum(${sum})`).join(', ')}) AS row
            FROM ${table} t GROUP BY ${keys} HAVING ${sums.map((sum) => `sum(${sum}) <> 0`).join(' OR ')} ORDER BY 1`;
};

/** Every table row by row, but for what may differ; versions only ever go up. */
export async function everything(sequelize: Sequelize): Promise<Record<string, unknown[]>> {
  const tables = await sequelize.query<{ name: string }>(
    "SELECT relname AS name FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY 1",
    { type: QueryTypes.SELECT },
  );
  const all: Record<string, unknown[]> = {};
  for (const { name } of tables.filter((table) => !LOGS.includes(table.name)))
    all[name] = (await sequelize.query<{ row: unknown }>(rowsOf(name), { type: QueryTypes.SELECT })).map(
      ({ row }) => row,
    );
  return all;
}
