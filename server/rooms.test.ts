import { QueryTypes } from 'sequelize';
import { parseCrontab } from 'graphile-worker';
import { installed, jobs, rooms } from './rooms';
import { useHouse } from './testing/harness';

const { house } = useHouse();
const RECORDS = ['people', 'companies', 'leads', 'deals'];

const ask = <Row extends object>(sql: string): Promise<Row[]> =>
  house.sequelize.query<Row>(sql, { type: QueryTypes.SELECT });
const sorted = (names: readonly string[]): string[] => [...names].sort();
const placesOf = (): string[] =>
  installed.tables.flatMap(({ table, refers = [] }) =>
    refers.map(({ column, to }) => `${table}.${column} to ${to}`),
  );

it('every table is claimed by one capability', async () => {
  const rows = await ask<{ name: string }>(
    "SELECT tablename AS name FROM pg_tables WHERE schemaname = 'public' AND tablename <> 'migrations'",
  );
  expect(sorted(installed.tables.map(({ table }) => table))).toEqual(sorted(rows.map(({ name }) => name)));
  expect(new Set(rooms.map(({ name }) => name)).size).toBe(rooms.length);
});

it('every foreign key to a record is named by the capability whose table has it', async () => {
  const keys = await ask<{ place: string }>(
    `SELECT c.conrelid::regclass::text || '.' || a.attname || ' to ' || c.confrelid::regclass::text AS place
       FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
      WHERE c.contype = 'f' AND c.confrelid::regclass::text IN ('${RECORDS.join("', '")}')`,
  );
  expect(keys.length).toBeGreaterThan(25);
  expect(placesOf()).toEqual(expect.arrayContaining(keys.map(({ place }) => place)));
});

it('every table that speaks of records shows nobody a row of one that they cannot see', async () => {
  const speaks = installed.tables.filter(({ refers = [], role }) => refers.length || role === 'record');
  const open = await ask<{ name: string }>(
    `SELECT c.relname AS name FROM pg_class c WHERE c.relname IN ('${speaks.map(({ table }) => table).join("', '")}')
        AND NOT (c.relrowsecurity AND EXISTS (SELECT 1 FROM pg_policy p WHERE p.polrelid = c.oid))`,
  );
  expect(speaks.length).toBeGreaterThan(15);
  expect(open).toEqual([]);
});

it('every foreign key of what grows begins an index, so that nothing reads a whole table to follow it back', async () => {
  const grows = installed.tables.flatMap(({ table, role }) =>
    role === 'record' || role === 'work' || role === 'part' ? table : [],
  );
  const bare = await ask<{ place: string }>(
    `SELECT c.conrelid::regclass::text || '.' || a.attname AS place FROM pg_constraint c
       JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
      WHERE c.contype = 'f' AND c.conrelid::regclass::text IN ('${grows.join("', '")}') AND c.confrelid <> 'users'::regclass
        AND NOT EXISTS (SELECT 1 FROM pg_index i WHERE i.indrelid = c.conrelid AND i.indkey[0] = c.conkey[1])`,
  );
  expect(bare).toEqual([]);
});

it('every job has a name of its own, and those that come by the clock are understood by the queue', () => {
  expect(new Set(jobs.map(({ name }) => name)).size).toBe(jobs.length);
  const timed = jobs.filter(({ cron }) => cron);
  const read = parseCrontab(timed.map(({ name, cron }) => `${cron ?? ''} ${name}`).join('\n'));
  expect(read.map(({ task }) => task)).toEqual(timed.map(({ name }) => name));
});

it('every column that is named is there, whether or not the database checks it', async () => {
  const columns = await ask<{ place: string }>(
    "SELECT table_name || '.' || column_name AS place FROM information_schema.columns WHERE table_schema = 'public'",
  );
  const named = installed.tables.flatMap(({ table, refers = [] }) =>
    refers.flatMap(({ column, unique = [], across }) =>
      [column, ...unique, ...(across ? [across] : [])].map((one) => `${table}.${one}`),
    ),
  );
  expect(columns.map(({ place }) => place)).toEqual(expect.arrayContaining(named));
});

it('what the database keeps unique for a record is said, so that a merge does not clash', async () => {
  const indexes = await ask<{ table: string; columns: string[] }>(
    `SELECT i.indrelid::regclass::text AS "table", array_agg(a.attname::text ORDER BY a.attname) AS columns
       FROM pg_index i JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = ANY (i.indkey)
      WHERE i.indisunique AND NOT i.indisprimary GROUP BY i.indexrelid, i.indrelid`,
  );
  for (const { table, refers = [] } of installed.tables)
    for (const { column, to, unique = [] } of refers) {
      if (to !== 'people' && to !== 'companies') continue;
      for (const index of indexes.filter((index) => index.table === table && index.columns.includes(column)))
        // Fewer columns than the index has find more doubles than it would; none at all would clash.
        expect([table, column, unique.length > 0, index.columns]).toEqual([
          table,
          column,
          true,
          expect.arrayContaining([...unique]),
        ]);
    }
});

it('whatever points to a person says what erasing and asking for what is known do with it', () => {
  const silent = installed.tables.filter(
    ({ refers = [], erase, export: isExported }) =>
      refers.some(({ to }) => to === 'people') && (erase === undefined || isExported === undefined),
  );
  expect(silent).toEqual([]);
});
