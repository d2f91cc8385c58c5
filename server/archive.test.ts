import { execFile, execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync, appendFileSync, statSync, existsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { fillTables } from './testing/fillTables';
import { databaseUrl, renewDatabase } from './testing/harness';

const folder = mkdtempSync(join(tmpdir(), 'emporikon-archive-test-'));
const target = `emporikon_unarchived_${process.pid}`;
const elsewhere = (): string => {
  const url = new URL(databaseUrl());
  url.pathname = `/${target}`;
  return url.href;
};
async function ask<Row extends object>(url: string, sql: string): Promise<Row[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<Row>(sql)).rows;
  } finally {
    await client.end();
  }
}
const run = (
  program: string,
  args: string[],
  env: Record<string, string>,
): Promise<{ code: number; said: string }> =>
  new Promise((resolve) =>
    execFile(
      process.execPath,
      [join(__dirname, '..', program), ...args],
      { cwd: folder, env: { ...process.env, ...env } },
      (error, stdout, stderr) =>
        resolve({ code: error ? Number(error.code ?? 1) : 0, said: `${stdout}${stderr}` }),
    ),
  );
const emporikon = (args: string[], url: string) => run('cli/bin/emporikon.mjs', args, { DATABASE_URL: url });
const file = join(folder, 'all.tar.gz');
const tables = async (url: string): Promise<string[]> =>
  (
    await ask<{ name: string }>(
      url,
      "SELECT relname AS name FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY 1",
    )
  ).map(({ name }) => name);
/** Rows as text, in an order of their own; but for the numbers that transactions have in one cluster. */
const rowsOf = async (url: string, table: string): Promise<string[]> =>
  (
    await ask<{ row: string }>(
      url,
      `SELECT (to_jsonb(t) - 'tx' - 'seen')::text AS row FROM ${table} t ORDER BY 1`,
    )
  ).map(({ row }) => row);

beforeAll(async () => {
  await renewDatabase('empty');
  const { code, said } = await run('demo/dist/main.js', [], { DATABASE_URL: databaseUrl() });
  expect([code, said]).toEqual([0, expect.stringContaining('demo loaded')]);
  // What the demo leaves empty, so that every table is tried.
  expect(await fillTables(databaseUrl())).toEqual([]);
  await ask(databaseUrl(), `CREATE DATABASE ${target}`);
}, 180_000);
afterAll(() => ask(databaseUrl(), `DROP DATABASE IF EXISTS ${target} WITH (FORCE)`));

it('everything goes into one archive in open formats, with the checksum of each file', async () => {
  const { code, said } = await emporikon(['archive', file], databaseUrl());
  expect([code, said]).toEqual([0, expect.stringMatching(/rows of \d+ tables and \d+ originals and files/)]);
  expect(statSync(file).mode & 0o077).toBe(0);
  execFileSync('tar', ['-xzf', file, '-C', folder]);
  const manifest = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8')) as {
    tables: { name: string; rows: number }[];
    sha256: Record<string, string>;
  };
  expect(manifest.tables.map(({ name }) => name)).toEqual(await tables(databaseUrl()));
  for (const { name, rows } of manifest.tables)
    expect([
      name,
      readFileSync(join(folder, 'tables', `${name}.jsonl`), 'utf8').split('\n').length - 1,
    ]).toEqual([name, rows]);
  // sha256sum of coreutils says the same.
  const list = Object.entries(manifest.sha256)
    .map(([name, sum]) => `${sum}  ${name}\n`)
    .join('');
  execFileSync('sha256sum', ['--check', '--quiet', '--strict'], { cwd: folder, input: list });
  const [mail] = await ask<{ id: string; raw: Buffer }>(
    databaseUrl(),
    "SELECT id, raw FROM captures WHERE kind = 'email' LIMIT 1",
  );
  expect(readFileSync(join(folder, 'originals', `${mail?.id}.eml`)).equals(mail?.raw ?? Buffer.of())).toBe(
    true,
  );
}, 120_000);

it('brought back in, every table is as it was, row by row, and the program starts on it', async () => {
  const { code, said } = await emporikon(['unarchive', file], elsewhere());
  expect([code, said]).toEqual([0, expect.stringContaining('every checksum was right')]);
  const names = await tables(databaseUrl());
  expect(await tables(elsewhere())).toEqual(names);
  for (const name of names) {
    const rows = await rowsOf(databaseUrl(), name);
    expect([name, rows.length > 0]).toEqual([name, true]);
    expect([name, await rowsOf(elsewhere(), name)]).toEqual([name, rows]);
  }
  const shape = (url: string): Promise<object[]> =>
    ask(
      url,
      "SELECT indexdef AS is FROM pg_indexes WHERE schemaname = 'public' UNION ALL SELECT conrelid::regclass || ' ' || pg_get_constraintdef(oid) FROM pg_constraint WHERE connamespace = 'public'::regnamespace UNION ALL SELECT tgrelid::regclass || ' ' || tgname FROM pg_trigger WHERE NOT tgisinternal UNION ALL SELECT tablename || ' ' || policyname FROM pg_policies ORDER BY 1",
    );
  expect(await shape(elsewhere())).toEqual(await shape(databaseUrl()));
  const owner = connect(elsewhere(), 1);
  expect(await migrate(owner)).toEqual([]);
  // What numbers itself goes on after the last.
  const [next] = await ask<{ ok: boolean }>(
    elsewhere(),
    "INSERT INTO events (id, at, command, label, changes) VALUES (gen_random_uuid(), now(), 'x', 'x', '[]') RETURNING seq = (SELECT max(seq) + 1 FROM events) AS ok",
  );
  expect(next).toEqual({ ok: true });
  await owner.close();
}, 120_000);

it('nothing is brought into a database that is not empty, nor from an archive that was changed or is none', async () => {
  const onto = await emporikon(['unarchive', file], elsewhere());
  expect([onto.code, onto.said]).toEqual([1, expect.stringContaining('not empty')]);
  await ask(databaseUrl(), `DROP DATABASE ${target} WITH (FORCE)`);
  await ask(databaseUrl(), `CREATE DATABASE ${target}`);
  appendFileSync(join(folder, 'tables', 'tasks.jsonl'), '{}\n');
  const changed = join(folder, 'changed.tgz');
  execFileSync('tar', [
    '-czf',
    changed,
    '-C',
    folder,
    'manifest.json',
    'tables',
    'schema',
    'originals',
    'files',
    'imports',
    'exports',
    'README.txt',
  ]);
  const refused = await emporikon(['unarchive', changed], elsewhere());
  expect([refused.code, refused.said]).toEqual([1, expect.stringContaining('tables/tasks.jsonl')]);
  const other = join(folder, 'other.tar.gz');
  writeFileSync(other, 'Dear all');
  expect((await emporikon(['unarchive', other], elsewhere())).said).toContain(
    'is not an archive of Emporikon',
  );
  expect(await tables(elsewhere())).toEqual([]);
  const failed = join(folder, 'failed.tar.gz');
  expect((await emporikon(['archive', failed], 'postgres://nobody:x@127.0.0.1:9/none')).code).toBe(1);
  expect([existsSync(failed), existsSync(`${failed}.part`)]).toEqual([false, false]);
}, 60_000);
