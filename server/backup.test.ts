import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { databaseUrl, openHouse, PASSWORD, type House } from './testing/harness';
import { unseal } from './mailboxes/seal';

let house: House;
const folder = mkdtempSync(join(tmpdir(), 'emporikon-backup-test-'));
const target = `emporikon_restored_${process.pid}`;
const SECRET = 'a key for the tests';
beforeAll(async () => {
  house = await openHouse({ door: { allowed: ['127.0.0.1:*'] } });
});
afterAll(async () => {
  await ask(databaseUrl(), `DROP DATABASE IF EXISTS ${target} WITH (FORCE)`);
  await house.close();
});

async function ask(url: string, sql: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(sql)).rows;
  } finally {
    await client.end();
  }
}
const elsewhere = (): string => {
  const url = new URL(databaseUrl());
  url.pathname = `/${target}`;
  return url.href;
};

/** The built command line, as somebody types it. */
function emporikon(args: string[], env: Record<string, string>): Promise<{ code: number; said: string }> {
  return new Promise((resolve) =>
    execFile(
      process.execPath,
      [join(__dirname, '../cli/bin/emporikon.mjs'), ...args],
      { cwd: folder, env: { ...process.env, EMPORIKON_SECRET: SECRET, ...env } },
      (error, stdout, stderr) =>
        resolve({ code: error ? Number(error.code ?? 1) : 0, said: `${stdout}${stderr}` }),
    ),
  );
}

it('a backup taken under load is one moment of the records, and is restored elsewhere with its secrets', async () => {
  const pell = await house.as('pell@wharfside.example');
  await pell.call('POST /api/mailboxes', {
    body: {
      address: 'pell@wharfside.example',
      host: '127.0.0.1',
      port: 9,
      secure: false,
      username: 'pell',
      password: 'a-mailbox-password',
    },
  });
  let isLoading = true;
  let made = 0;
  const load = (async () => {
    while (isLoading) {
      // A person and their company come together or not at all.
      await pell.call('POST /api/people', {
        body: { fullName: `Under Load ${made}`, companyName: `Loaded ${made} Ltd` },
      });
      made++;
    }
  })();
  const file = join(folder, 'book.backup');
  const env = { DATABASE_URL: databaseUrl(), EMPORIKON_PASSPHRASE: 'a passphrase for the tests' };
  const { code, said } = await emporikon(['backup', file], env);
  isLoading = false;
  await load;
  expect([code, said]).toEqual([0, expect.stringContaining('encrypted, restored into a scratch database')]);
  expect(made).toBeGreaterThan(0);
  const bytes = readFileSync(file);
  for (const secret of ['Under Load', SECRET, PASSWORD, 'wharfside'])
    expect(bytes.includes(secret)).toBe(false);
  expect(statSync(file).mode & 0o077).toBe(0);

  await ask(databaseUrl(), `CREATE DATABASE ${target}`);
  const restored = await emporikon(['restore', file], { ...env, DATABASE_URL: elsewhere() });
  expect([restored.code, restored.said]).toEqual([0, expect.stringContaining('restored')]);
  expect(restored.said).not.toContain(SECRET);
  expect(readFileSync(`${file}.secret`, 'utf8')).toBe(SECRET);
  const [counts] = await ask(
    elsewhere(),
    `SELECT (SELECT count(*) FROM people WHERE full_name LIKE 'Under Load%') AS people,
            (SELECT count(*) FROM companies WHERE name LIKE 'Loaded%') AS companies,
            (SELECT count(*) FROM people p WHERE full_name LIKE 'Under Load%' AND NOT EXISTS (SELECT 1 FROM companies c WHERE c.id = p.company_id)) AS alone`,
  );
  expect(Number(counts?.people)).toBeGreaterThan(0);
  expect([counts?.people, Number(counts?.alone)]).toEqual([counts?.companies, 0]);
  const [box] = await ask(elsewhere(), 'SELECT sealed FROM mailboxes');
  expect(unseal(String(box?.sealed), SECRET)).toBe('a-mailbox-password');

  // Rights are in no backup; a start on what was restored gives them anew.
  const mayRead = "SELECT has_table_privilege('emporikon_member', 'people', 'SELECT') AS may";
  expect(await ask(elsewhere(), mayRead)).toEqual([{ may: false }]);
  const owner = connect(elsewhere(), 1);
  await migrate(owner);
  await owner.close();
  expect(await ask(elsewhere(), mayRead)).toEqual([{ may: true }]);

  const onto = await emporikon(['restore', file], { ...env, DATABASE_URL: elsewhere() });
  expect([onto.code, onto.said]).toEqual([1, expect.stringContaining('not empty')]);
}, 120_000);

it('a wrong passphrase, a file that was cut off and one that is no backup are told apart, and nothing is written', async () => {
  const file = join(folder, 'book.backup');
  const env = { DATABASE_URL: databaseUrl() };
  expect((await emporikon(['restore', file], { ...env, EMPORIKON_PASSPHRASE: 'wrong' })).said).toContain(
    'passphrase is wrong',
  );
  expect((await emporikon(['restore', file], env)).said).toContain('is encrypted');
  const cut = join(folder, 'cut.backup');
  writeFileSync(cut, readFileSync(file).subarray(0, -100));
  expect((await emporikon(['restore', cut], env)).said).toContain('cut off');
  const other = join(folder, 'other.txt');
  writeFileSync(other, 'Dear all');
  expect((await emporikon(['restore', other], env)).said).toContain('not a backup');
  expect(existsSync(`${join(folder, 'failed.backup')}`)).toBe(false);
  const down = await emporikon(['backup', join(folder, 'failed.backup')], {
    DATABASE_URL: 'postgres://nobody:x@127.0.0.1:9/none',
  });
  expect(down.code).toBe(1);
  expect(existsSync(join(folder, 'failed.backup'))).toBe(false);
}, 60_000);
