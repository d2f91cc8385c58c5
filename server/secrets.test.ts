import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { databaseUrl, openHouse, PASSWORD, type House } from './testing/harness';
import { startServer, signInTo } from './testing/process';

let house: House;
beforeAll(async () => {
  house = await openHouse({ door: { allowed: ['127.0.0.1:*'] } });
});
afterAll(() => house.close());

it('no secret that was used stands in a dump of the database or in the logs', async () => {
  const logs = mkdtempSync(join(tmpdir(), 'emporikon-logs-'));
  process.env.LOG_FOLDER = logs;
  process.env.EMPORIKON_SECRET = 'a key for the tests';
  const server = await startServer();
  delete process.env.LOG_FOLDER;
  const cookie = await signInTo(server.url, 'pell@wharfside.example');
  const post = async (path: string, body: object, key = 'once'): Promise<Record<string, string>> =>
    (await (
      await fetch(server.url + path, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie, 'idempotency-key': `${path}${key}` },
        body: JSON.stringify(body),
      })
    ).json()) as Record<string, string>;
  const { token = '' } = await post('/api/tokens', { name: 'script' });
  expect(token.length).toBeGreaterThan(20);
  // A retry is answered once more, without what is shown once.
  expect((await post('/api/tokens', { name: 'script' })).token).toBe('');
  const mailboxPassword = 'a-very-secret-mailbox-password';
  await post('/api/mailboxes', {
    address: 'pell@wharfside.example',
    host: '127.0.0.1',
    port: 9,
    secure: false,
    username: 'pell',
    password: mailboxPassword,
  });
  await fetch(`${server.url}/api/people?q=whoever`, { headers: { authorization: `Bearer ${token}` } });
  await fetch(`${server.url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'pell@wharfside.example', password: 'wrong-but-nearly-right' }),
  });
  await server.kill('SIGTERM');
  const dump = execFileSync('/usr/bin/pg_dump', [databaseUrl()], {
    encoding: 'utf8',
    maxBuffer: 256 * 1024 * 1024,
  });
  const written = readdirSync(logs)
    .map((file) => readFileSync(join(logs, file), 'utf8'))
    .join('');
  // They are there to be searched, and the search would find something.
  expect(dump).toContain('pell@wharfside.example');
  expect(written).toContain('"route":"/api/tokens"');
  const session = cookie.split('=')[1] ?? '';
  for (const secret of [
    token,
    mailboxPassword,
    PASSWORD,
    session,
    'wrong-but-nearly-right',
    'a key for the tests',
  ])
    expect([secret, dump.includes(secret), written.includes(secret)]).toEqual([secret, false, false]);
  expect(written).not.toContain('whoever');
}, 60_000);
