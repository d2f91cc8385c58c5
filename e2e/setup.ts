import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { freePort } from '../server/testing/port';

const root = join(import.meta.dirname, '..');

function launch(file: string, env: NodeJS.ProcessEnv, ready: RegExp): Promise<ChildProcess> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(root, file)], { env, stdio: ['ignore', 'pipe', 'inherit'] });
    child.stdout.on('data', (chunk: Buffer) => (ready.test(String(chunk)) ? resolve(child) : undefined));
    child.once('exit', (code) =>
      code === 0 ? resolve(child) : reject(new Error(`${file} ended (${code})`)),
    );
  });
}

const LOOK_EVERY_MS = 200;
const LONGEST_MS = 240_000;

/** Waits until nothing of the demo's first work is left: what it brings in would move a page that is being looked at. */
async function untilIdle(databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    for (const end = Date.now() + LONGEST_MS; ;) {
      const { rows } = await client.query<{ waiting: number }>(
        'SELECT count(*)::int AS waiting FROM graphile_worker.jobs WHERE run_at <= now()',
      );
      if (!rows[0]?.waiting) return;
      if (Date.now() > end) return console.warn(`${rows[0].waiting} jobs of the demo are still waiting`);
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
  } finally {
    await client.end();
  }
}

/** The real thing for the tests: the demo, two server processes on one database, and the post office. */
export default async function setup(): Promise<() => Promise<void>> {
  const ports: number[] = [];
  for (let count = 0; count < 11; count++) ports.push(await freePort());
  const [
    port = 0,
    second = 0,
    mailPort = 0,
    postPort = 0,
    rollcall = 0,
    exchange = 0,
    shop = 0,
    outbox = 0,
    lookUps = 0,
    calendar = 0,
    provider = 0,
  ] = ports;
  const env = {
    ...process.env,
    DATABASE_URL: process.env.TEST_DATABASE_URL,
    PORT: String(port),
    MAIL_PORT: String(mailPort),
    POST_PORT: String(postPort),
    EMPORIKON_OURS: 'wharfside.example',
    WEB_ROOT: join(root, 'web', 'dist'),
    PUBLIC_URL: `http://127.0.0.1:${port}`,
    ROLLCALL_PORT: String(rollcall),
    EXCHANGE_PORT: String(exchange),
    SHOP_PORT: String(shop),
    OUTBOX_PORT: String(outbox),
    LOOKUPS_PORT: String(lookUps),
    CALENDAR_PORT: String(calendar),
    CALENDAR_FOLDER: mkdtempSync(join(tmpdir(), 'daybook-')),
    ...Object.fromEntries(
      ['register', 'finder', 'directory'].flatMap((name) => [
        [`${name.toUpperCase()}_URL`, `http://127.0.0.1:${lookUps}/${name}`],
        [`${name.toUpperCase()}_KEY`, `${name}-demo-key`],
      ]),
    ),
    FETCH_ALLOWED: `127.0.0.1:${rollcall},127.0.0.1:${calendar}`,
    EXCHANGE_URL: `http://127.0.0.1:${exchange}`,
    EXCHANGE_SECRET: `whsec_${Buffer.from('a secret for the end-to-end tests').toString('base64')}`,
    EMPORIKON_SECRET: 'a key for the end-to-end tests',
    POST_SERVER: `127.0.0.1:${postPort}`,
    PROVIDER_PORT: String(provider),
    PROVIDER_LEADS_TO: `http://127.0.0.1:${port}/openid/callback`,
    OIDC_ISSUER: `http://127.0.0.1:${provider}`,
    OIDC_CLIENT_ID: 'emporikon',
    OIDC_CLIENT_SECRET: 'a secret of the client',
    OIDC_NAME: 'Harbour',
  };
  await launch('demo/dist/main.js', env, /demo loaded/);
  const children = [
    await launch('server/dist/main.js', env, /listening/),
    await launch('server/dist/main.js', { ...env, PORT: String(second), MAIL_PORT: '0' }, /listening/),
    await launch('server/dist/worker.js', env, /worker ready/),
    await launch('standins/dist/main.js', env, /post office/),
    await launch('server/testing/openIdProvider.mjs', env, /provider listening/),
  ];
  await untilIdle(env.DATABASE_URL ?? '');
  process.env.E2E_URL = `http://127.0.0.1:${port}`;
  process.env.E2E_SECOND_URL = `http://127.0.0.1:${second}`;
  process.env.E2E_POST_PORT = String(postPort);
  process.env.E2E_ROLLCALL_URL = `http://127.0.0.1:${rollcall}`;
  process.env.E2E_EXCHANGE_URL = `http://127.0.0.1:${exchange}`;
  process.env.E2E_OUTBOX_URL = `http://127.0.0.1:${outbox}`;
  process.env.E2E_LOOKUPS_URL = `http://127.0.0.1:${lookUps}`;
  process.env.E2E_CALENDAR_URL = `http://127.0.0.1:${calendar}`;
  process.env.E2E_PROVIDER_URL = env.OIDC_ISSUER;
  process.env.E2E_SHOP_URL = `http://127.0.0.1:${shop}`;
  return async () => {
    await Promise.all(
      children.map(
        (child) =>
          new Promise<void>((done) => {
            child.once('exit', () => done());
            child.kill('SIGTERM');
          }),
      ),
    );
  };
}
