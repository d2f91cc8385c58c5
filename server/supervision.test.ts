import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { databaseUrl } from './testing/harness';
import { freePort } from './testing/port';

const root = join(__dirname, '..');
const name = `emporikon_start_${process.pid}`;
let started: ChildProcess;
let said = '';
let port = 0;

async function ask(sql: string, database = 'postgres'): Promise<Record<string, unknown>[]> {
  const url = new URL(databaseUrl());
  url.pathname = `/${database}`;
  const client = new pg.Client({ connectionString: url.href });
  await client.connect();
  try {
    return (await client.query(sql)).rows;
  } finally {
    await client.end();
  }
}

async function until(what: string, holds: () => boolean | Promise<boolean>, seconds = 60): Promise<void> {
  for (const end = Date.now() + seconds * 1000; Date.now() < end;) {
    if (await holds()) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`${what} did not come about; it said:\n${said.slice(-2000)}`);
}
const statusOf = (path: string): Promise<number> =>
  fetch(`http://127.0.0.1:${port}${path}`).then(
    (response) => response.status,
    () => 0,
  );
/** The process that runs a file of the build, among those the start launched. */
const processOf = (file: string): number =>
  readFileSync(join(root, '.emporikon', 'start.lock'), 'utf8')
    .split('\n')
    .map(Number)
    .find((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(file);
      } catch {
        return false;
      }
    }) ?? 0;

const PORTS = [
  'PORT',
  'MAIL_PORT',
  'POST_PORT',
  'ROLLCALL_PORT',
  'EXCHANGE_PORT',
  'SHOP_PORT',
  'OUTBOX_PORT',
  'LOOKUPS_PORT',
  'CALENDAR_PORT',
];
beforeAll(async () => {
  await ask(`CREATE DATABASE ${name}`);
  const url = new URL(databaseUrl());
  url.pathname = `/${name}`;
  const ports: Record<string, string> = {};
  for (const setting of PORTS) ports[setting] = String(await freePort());
  port = Number(ports.PORT);
  started = spawn(process.execPath, [join(root, 'setup/start.mjs')], {
    cwd: root,
    env: {
      ...process.env,
      ...ports,
      DATABASE_URL: url.href,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  for (const stream of [started.stdout, started.stderr])
    stream?.on('data', (chunk: Buffer) => (said += String(chunk)));
  // A busy machine takes a minute to load the demo.
  await until('the start', () => said.includes('Ctrl-C stops everything'), 240);
}, 300_000);
afterAll(async () => {
  if (process.env.SAY) process.stdout.write(said);
  const ended = new Promise((resolve) => started.once('exit', resolve));
  started.kill('SIGINT');
  await ended;
  await ask(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
}, 60_000);

it.each([
  ['the server', 'server/dist/main.js'],
  ['the worker', 'server/dist/worker.js'],
  ['the stand-ins', 'standins/dist/main.js'],
])(
  '%s is started again when it falls, and the others go on',
  async (what, file) => {
    const before = processOf(file);
    expect(before).toBeGreaterThan(0);
    process.kill(before, 'SIGKILL');
    await until(`${what} again`, () => said.includes(`${what} runs again`) && processOf(file) !== before);
    await until('an answer', async () => (await statusOf('/readyz')) === 200);
  },
  90_000,
);

it('a database that is away is waited for by all of them, and found again', async () => {
  const before = ['server/dist/main.js', 'server/dist/worker.js', 'standins/dist/main.js'].map(processOf);
  await ask(`ALTER DATABASE ${name} ALLOW_CONNECTIONS false`);
  await ask(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '${name}'`);
  await until('a server that says it cannot serve', async () => (await statusOf('/readyz')) === 503);
  // It lives all the same, and says in words what is the matter.
  expect(await statusOf('/healthz')).toBe(200);
  await new Promise((resolve) => setTimeout(resolve, 3000));
  await ask(`ALTER DATABASE ${name} ALLOW_CONNECTIONS true`);
  await until('a server that serves again', async () => (await statusOf('/readyz')) === 200);
  expect(['server/dist/main.js', 'server/dist/worker.js', 'standins/dist/main.js'].map(processOf)).toEqual(
    before,
  );
  // The worker works again: it takes a job that is put into its queue.
  await ask("SELECT graphile_worker.add_job('bringBackParked', '{}')", name);
  await until('the job', async () => {
    const [row] = await ask(
      "SELECT count(*)::int AS n FROM graphile_worker.jobs WHERE task_identifier = 'bringBackParked'",
      name,
    );
    return row?.n === 0;
  });
}, 120_000);
