import { PASSWORD, type Client, useHouse } from '../testing/harness';

const { house } = useHouse();
let admin: Client;
beforeAll(async () => {
  await house.sequelize.query("UPDATE users SET role = 'admin' WHERE email LIKE 'mara%'");
  admin = await house.as('mara@wharfside.example');
});

const NEXT = 'another long password';
const signIn = (email: string, password: string, from = '127.0.0.1') =>
  house.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { email, password },
    remoteAddress: from,
  });
const isIn = async (who: Client) => (await who.call('GET /api/session')).status === 200;

it('my time zone is changed by me, and only to one there is', async () => {
  const ines = await house.as('ines@wharfside.example');
  const changed = await ines.call('PATCH /api/session', { body: { timeZone: 'Europe/Lisbon' } });
  expect([changed.status, changed.body.timeZone]).toEqual([200, 'Europe/Lisbon']);
  expect((await ines.call('PATCH /api/session', { body: { timeZone: 'Europe/Atlantis' } })).status).toBe(422);
  expect((await ines.call('GET /api/session')).body).toMatchObject({
    timeZone: 'Europe/Lisbon',
    locale: null,
  });
  expect((await ines.call('PATCH /api/session', { body: { locale: 'pt-PT' } })).body).toMatchObject({
    timeZone: 'Europe/Lisbon',
    locale: 'pt-PT',
  });
  for (const locale of ['', 'not a tag', 'xx-XXXXXXXXXXXX', 'qq'])
    expect((await ines.call('PATCH /api/session', { body: { locale } })).status).toBe(422);
  expect((await ines.call('PATCH /api/session', { body: { locale: null } })).body.locale).toBeNull();
});

it('what my cards show first is kept with me, by kind, and of a size that fits', async () => {
  const mara = await house.as('mara@wharfside.example');
  const put = (cardFirst: unknown) => mara.call('PATCH /api/session', { body: { cardFirst } });
  expect((await put({ person: ['birthday', 'custom.route'] })).body.cardFirst).toEqual({
    person: ['birthday', 'custom.route'],
  });
  expect((await mara.call('GET /api/session')).body.cardFirst.person).toEqual(['birthday', 'custom.route']);
  expect((await put({ person: Array.from({ length: 61 }, () => 'x') })).status).toBe(422);
  expect((await put(['x'])).status).toBe(422);
  expect((await put({})).body.cardFirst).toEqual({});
});

it('my tokens are listed to me alone, without what they are', async () => {
  const [ines, pell] = [await house.as('ines@wharfside.example'), await house.as('pell@wharfside.example')];
  const { body: made } = await ines.call('POST /api/tokens', { body: { name: 'reports' } });
  const { body } = await ines.call('GET /api/tokens');
  expect(body.items).toMatchObject([{ name: 'reports' }]);
  expect(JSON.stringify(body)).not.toContain(made.token);
  expect((await pell.call('GET /api/tokens')).body.items).toEqual([]);
});

it('many guesses at once are no way around the limit, and a right password counts for nothing', async () => {
  const email = 'ines@wharfside.example';
  const from = '203.0.113.77';
  for (let times = 0; times < 12; times++) expect((await signIn(email, PASSWORD, from)).statusCode).toBe(200);
  const tries = await Promise.all(Array.from({ length: 40 }, () => signIn(email, 'a wrong guess', from)));
  const statuses = tries.map(({ statusCode }) => statusCode);
  expect(statuses.filter((status) => status !== 429).length).toBeLessThanOrEqual(8);
  expect(new Set(statuses.filter((status) => status !== 401))).toEqual(new Set([429]));
  // What was refused without a look is not counted, so that waiting helps; from elsewhere they get in.
  const [rows] = await house.sequelize.query(
    `SELECT count(*)::int AS n FROM sign_in_failures WHERE key LIKE 'pair:${email}|${from}'`,
  );
  expect((rows[0] as { n: number }).n).toBeLessThanOrEqual(8);
  expect((await signIn(email, PASSWORD, '203.0.113.78')).statusCode).toBe(200);
});

it('an admin adds a colleague, changes what they may, switches them off and on; nobody else may', async () => {
  const pell = await house.as('pell@wharfside.example');
  const body = { name: 'Nia New', email: 'Nia@wharfside.example', password: PASSWORD };
  expect((await pell.call('POST /api/admin/users', { body })).status).toBe(403);
  const { status, body: nia } = await admin.call('POST /api/admin/users', { body });
  expect([status, nia.email, nia.role]).toEqual([201, 'nia@wharfside.example', 'rep']);
  expect((await admin.call('POST /api/admin/users', { body })).status).toBe(409);
  const client = await house.as('nia@wharfside.example');
  const { body: made } = await client.call('POST /api/tokens', { body: { name: 'script' } });
  const params = { id: nia.id };
  const off = await admin.call('PATCH /api/admin/users/:id', {
    params,
    body: { version: nia.version, active: false },
  });
  expect(off.body.active).toBe(false);
  expect(await isIn(client)).toBe(false);
  const headers = { authorization: `Bearer ${made.token}` };
  expect((await house.anonymous.call('GET /api/session', { headers })).status).toBe(401);
  expect((await signIn('nia@wharfside.example', PASSWORD)).statusCode).toBe(401);
  await admin.call('PATCH /api/admin/users/:id', {
    params,
    body: { version: off.body.version, active: true },
  });
  expect((await signIn('nia@wharfside.example', PASSWORD)).statusCode).toBe(200);
  const { body: all } = await admin.call('GET /api/admin/users');
  expect(all.items.map((item) => item.name)).toContain('Nia New');
});

it('the last admin cannot go', async () => {
  const { body } = await admin.call('GET /api/admin/users');
  const mara = body.items.find((item) => item.role === 'admin');
  for (const change of [{ active: false }, { role: 'rep' as const }])
    expect(
      (
        await admin.call('PATCH /api/admin/users/:id', {
          params: { id: mara?.id ?? '' },
          body: { version: mara?.version, ...change },
        })
      ).status,
    ).toBe(409);
});

it('a new password ends every other session, and needs the present one', async () => {
  const [here, elsewhere] = [
    await house.as('ines@wharfside.example'),
    await house.as('ines@wharfside.example'),
  ];
  const change = (current: string, next: string) =>
    here.call('PUT /api/session/password', { body: { current, next } });
  expect((await change('wrong', NEXT)).status).toBe(422);
  expect((await change(PASSWORD, 'short')).status).toBe(422);
  expect((await change(PASSWORD, NEXT)).status).toBe(200);
  expect([await isIn(here), await isIn(elsewhere)]).toEqual([true, false]);
  expect((await signIn('ines@wharfside.example', PASSWORD)).statusCode).toBe(401);
  expect((await signIn('ines@wharfside.example', NEXT)).statusCode).toBe(200);
});

it('"sign out everywhere" ends them all, here too', async () => {
  const [one, two] = [await house.as('pell@wharfside.example'), await house.as('pell@wharfside.example')];
  expect((await one.call('DELETE /api/sessions')).status).toBe(200);
  expect([await isIn(one), await isIn(two)]).toEqual([false, false]);
});

it('a session ends after 14 idle days, and one in use does not', async () => {
  const [idle, used] = [await house.as('pell@wharfside.example'), await house.as('pell@wharfside.example')];
  await house.sequelize.query("UPDATE sessions SET last_seen_at = now() - interval '13 days 23 hours'");
  expect(await isIn(used)).toBe(true);
  await house.sequelize.query("UPDATE sessions SET last_seen_at = last_seen_at - interval '2 hours'");
  expect([await isIn(idle), await isIn(used)]).toEqual([false, true]);
});

it('guessing from many addresses does not lock somebody out where they signed in before', async () => {
  const home = '192.0.2.10';
  expect((await signIn('pell@wharfside.example', PASSWORD, home)).statusCode).toBe(200);
  for (let at = 0; at < 70; at++) await signIn('pell@wharfside.example', 'guess', `198.51.100.${at}`);
  expect((await signIn('pell@wharfside.example', PASSWORD, home)).statusCode).toBe(200);
  expect((await signIn('pell@wharfside.example', PASSWORD, '203.0.113.9')).statusCode).toBe(429);
});

it('one who guesses in an office stops themselves and not their colleagues', async () => {
  const office = '192.0.2.77';
  expect((await signIn('mara@wharfside.example', PASSWORD, office)).statusCode).toBe(200);
  for (let at = 0; at < 70; at++) await signIn(`somebody${at}@wharfside.example`, 'guess', office);
  expect((await signIn('mara@wharfside.example', PASSWORD, office)).statusCode).toBe(200);
  expect((await signIn('somebody@wharfside.example', 'guess', office)).statusCode).toBe(429);
});

it('signing in again takes the place of the session of before in that browser, and of no other', async () => {
  const [here, there] = [
    await signIn('mara@wharfside.example', PASSWORD),
    await house.as('mara@wharfside.example'),
  ];
  const cookie = String(here.headers['set-cookie']).split(';')[0] ?? '';
  const isKnown = async (): Promise<number> =>
    (await house.app.inject({ url: '/api/session', headers: { cookie } })).statusCode;
  expect(await isKnown()).toBe(200);
  const again = await house.app.inject({
    method: 'POST',
    url: '/api/session',
    headers: { cookie },
    payload: { email: 'mara@wharfside.example', password: PASSWORD },
  });
  expect([again.statusCode, String(again.headers['set-cookie']).startsWith(cookie)]).toEqual([200, false]);
  expect([await isKnown(), await isIn(there)]).toEqual([401, true]);
});

it('an admin signs one colleague out everywhere, or everybody but themselves here; nobody else may', async () => {
  const boss = await house.as('mara@wharfside.example');
  await boss.call('POST /api/admin/users', {
    body: { name: 'Odd Visitor', email: 'odd@wharfside.example', password: PASSWORD },
  });
  const [pell, again, odd] = [
    await house.as('pell@wharfside.example'),
    await house.as('pell@wharfside.example'),
    await house.as('odd@wharfside.example'),
  ];
  const { id } = (await pell.call('GET /api/session')).body;
  const signOut = (by: Client, user = id) =>
    by.call('DELETE /api/admin/users/:id/sessions', { params: { id: user } });
  expect((await signOut(odd)).status).toBe(403);
  expect((await odd.call('DELETE /api/admin/sessions')).status).toBe(403);
  expect((await signOut(boss, crypto.randomUUID())).status).toBe(404);
  expect((await signOut(boss)).body.ended).toBeGreaterThanOrEqual(2);
  expect([await isIn(pell), await isIn(again), await isIn(odd)]).toEqual([false, false, true]);
  expect((await boss.call('DELETE /api/admin/sessions')).body.ended).toBeGreaterThanOrEqual(1);
  expect([await isIn(odd), await isIn(boss)]).toEqual([false, true]);
});
