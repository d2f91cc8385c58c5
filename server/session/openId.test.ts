import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { openOpenId } from '../outside/openId';
import { freePort } from '../testing/port';
import { useHouse } from '../testing/harness';

const { house } = useHouse();
let provider: ChildProcess;
let issuer = '';
beforeAll(async () => {
  const port = await freePort();
  issuer = `http://127.0.0.1:${port}`;
  const file = join(__dirname, '../testing/openIdProvider.mjs');
  const back = `${house.tools.house.publicUrl}/openid/callback`;
  provider = spawn(process.execPath, [file], {
    env: { ...process.env, PROVIDER_PORT: String(port), PROVIDER_LEADS_TO: back },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await new Promise<void>((ready, failed) => {
    provider.stdout?.on('data', (chunk: Buffer) => String(chunk).includes('listening') && ready());
    provider.once('exit', (code) => failed(new Error(`the provider ended (${code})`)));
  });
  house.tools.outside.openId = openOpenId({
    ...{ issuer, clientId: 'emporikon', clientSecret: 'a secret of the client', name: 'Harbour' },
  });
});
afterAll(async () => {
  const ended = new Promise((done) => provider.once('exit', done));
  provider.kill('SIGTERM');
  await ended;
});

const is = (person: object) => fetch(`${issuer}/person?is=${encodeURIComponent(JSON.stringify(person))}`);
let serial = 0;
const get = async (url: string, cookie = '') => {
  const { statusCode, headers } = await house.app.inject({
    method: 'GET',
    url,
    headers: cookie ? { cookie } : {},
    // So many from one address would be too many.
    remoteAddress: `10.0.0.${++serial}`,
  });
  const cookies = [headers['set-cookie'] ?? []].flat();
  const jar = cookies.map((one) => one.split(';')[0] ?? '').filter((one) => !one.endsWith('='));
  return { status: statusCode, to: String(headers.location ?? ''), cookie: jar.join('; '), cookies };
};

/** Follows the provider's own redirects, as a browser does, until it leads back to us. */
async function atProvider(url: string): Promise<string> {
  const jar = new Map<string, string>();
  for (let next = url, hops = 0; hops < 10; hops++) {
    const response = await fetch(next, {
      redirect: 'manual',
      headers: { cookie: [...jar].map(([name, value]) => `${name}=${value}`).join('; ') },
    });
    for (const line of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(line) ?? [];
      jar.set(name, value);
    }
    const to = new URL(response.headers.get('location') ?? '', next);
    if (to.pathname === '/openid/callback') return `${to.pathname}${to.search}`;
    next = to.href;
  }
  throw new Error('the provider led nowhere');
}

async function signIn(person: object, to?: string) {
  await is(person);
  const begun = await get(`/openid/begin${to === undefined ? '' : `?to=${encodeURIComponent(to)}`}`);
  const back = await atProvider(begun.to);
  return { begun, back, done: await get(back, begun.cookie) };
}
const whoIs = async (cookie: string) => {
  const { body } = await house.app.inject({ method: 'GET', url: '/api/session', headers: { cookie } });
  return (JSON.parse(body) as { name?: string }).name;
};
const PELL = { sub: 'p-1', email: 'Pell@wharfside.example', email_verified: true };

it('a verified address of ours signs in with PKCE, state and nonce, and goes where it wanted', async () => {
  expect((await house.anonymous.call('GET /api/session/ways')).body).toEqual({ openId: { name: 'Harbour' } });
  const { begun, done } = await signIn(PELL, '/deals?view=lanes');
  const asked = new URL(begun.to).searchParams;
  expect(asked.get('code_challenge_method')).toBe('S256');
  for (const name of ['state', 'nonce', 'code_challenge'])
    expect(asked.get(name)?.length).toBeGreaterThan(20);
  expect(begun.cookies.join()).toMatch(/emporikon_openid=.*Path=\/openid; HttpOnly; SameSite=Lax/);
  expect([done.status, done.to]).toEqual([302, '/deals?view=lanes']);
  expect(await whoIs(done.cookie)).toBe('Pell Garrick');
});

it('whoever was linked stays so when their address changes, and not once their account is off', async () => {
  await signIn(PELL);
  const moved = await signIn({ ...PELL, email: 'pell@elsewhere.example' });
  expect(await whoIs(moved.done.cookie)).toBe('Pell Garrick');
  await house.sequelize.query("UPDATE users SET active = false WHERE email LIKE 'pell%'");
  const { done } = await signIn(PELL);
  expect([done.to, done.cookie]).toEqual(['/sign-in?problem=no-account', '']);
  await house.sequelize.query("UPDATE users SET active = true WHERE email LIKE 'pell%'");
});

it('an address that is not verified, or is nobody’s here, lets nobody in, and that is kept', async () => {
  for (const person of [
    { sub: 'm-1', email: 'mara@wharfside.example', email_verified: false },
    { sub: 'm-2', email: 'mara@wharfside.example' },
    { sub: 'm-3', email: 'stranger@elsewhere.example', email_verified: true },
    { sub: 'm-4' },
  ]) {
    const { done } = await signIn(person);
    expect([done.to, done.cookie]).toEqual(['/sign-in?problem=no-account', '']);
  }
  const [rows] = await house.sequelize.query(
    "SELECT count(*)::int AS n FROM sign_in_events WHERE what = 'refused'",
  );
  expect(rows).toEqual([{ n: 5 }]);
});

it('an answer is taken once, in the browser that asked, unchanged, and for ten minutes', async () => {
  const { begun, back } = await signIn(PELL);
  expect((await get(back, begun.cookie)).to).toBe('/sign-in?problem=refused');
  const fresh = async () => {
    await is(PELL);
    const started = await get('/openid/begin');
    return { started, answer: await atProvider(started.to) };
  };
  const one = await fresh();
  const other = await fresh();
  // Another browser, a cookie that was changed, the answer to another asking, another state, no code.
  expect((await get(one.answer)).to).toBe('/sign-in?problem=too-late');
  expect((await get(one.answer, one.started.cookie.replace('=', '=A'))).to).toBe('/sign-in?problem=too-late');
  expect((await get(one.answer, other.started.cookie)).to).toBe('/sign-in?problem=refused');
  expect((await get(one.answer.replace(/state=[^&]+/, 'state=other'), one.started.cookie)).to).toBe(
    '/sign-in?problem=refused',
  );
  expect((await get('/openid/callback', one.started.cookie)).to).toBe('/sign-in?problem=refused');
  const { now } = house.tools;
  house.tools.now = () => new Date(Date.now() + 11 * 60_000);
  expect((await get(one.answer, one.started.cookie)).to).toBe('/sign-in?problem=too-late');
  house.tools.now = now;
  expect((await get(one.answer, one.started.cookie)).to).toBe('/arrivals');
});

it('who is refused there is told so; nobody is sent to another server afterwards', async () => {
  const { done } = await signIn({ sub: 'refused' });
  expect(done.to).toBe('/sign-in?problem=refused');
  for (const to of [
    '//evil.example',
    '/\\evil.example',
    'https://evil.example',
    '/a\r\nx: y',
    'javascript:1',
  ])
    expect((await signIn(PELL, to)).done.to).toBe('/arrivals');
});

it('without a provider, or where it is out of reach, one signs in with a password as before', async () => {
  const { openId } = house.tools.outside;
  house.tools.outside.openId = openOpenId({
    ...{ issuer: `http://127.0.0.1:${await freePort()}`, clientId: 'x', clientSecret: 'y', name: 'Gone' },
  });
  expect((await get('/openid/begin')).to).toBe('/sign-in?problem=unreachable');
  house.tools.outside.openId = null;
  expect((await get('/openid/begin')).to).toBe('/sign-in');
  expect((await house.anonymous.call('GET /api/session/ways')).body).toEqual({ openId: null });
  house.tools.outside.openId = openId;
  expect(() =>
    openOpenId({ issuer: 'http://id.example', clientId: 'x', clientSecret: 'y', name: 'Plain' }),
  ).toThrow('https://');
});
