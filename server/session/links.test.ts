import { type Client, PASSWORD, useHouse } from '../testing/harness';

const { house } = useHouse();
let admin: Client;
beforeAll(async () => {
  await house.sequelize.query("UPDATE users SET role = 'admin' WHERE email LIKE 'mara%'");
  admin = await house.as('mara@wharfside.example');
});

const NEXT = 'quite another long password';
const signIn = async (email: string, password: string, from = '10.0.0.9') =>
  (
    await house.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email, password },
      remoteAddress: from,
      headers: { 'user-agent': 'A browser of the tests' },
    })
  ).statusCode;
const ask = (email: string, from = '10.0.0.1') =>
  house.app.inject({
    method: 'POST',
    url: '/api/session/password-link',
    payload: { email },
    remoteAddress: from,
  });
const choose = (token: string, password = NEXT) =>
  house.anonymous.call('PUT /api/session/password-link', { body: { token, password } });
/** The secret in the newest message to an address, and how many messages there were. */
async function mailed(email: string): Promise<{ token: string; count: number; text: string }> {
  await house.work();
  const mails = house.mails.filter(({ to }) => to === email);
  const text = mails.at(-1)?.text ?? '';
  return { token: /\/new-password#(\S+)/.exec(text)?.[1] ?? '', count: mails.length, text };
}

describe('a password by a link', () => {
  it('is chosen once, within an hour, and ends every session of the account', async () => {
    const pell = await house.as('pell@wharfside.example');
    const answer = await ask('Pell@Wharfside.example');
    expect([answer.statusCode, answer.json()]).toEqual([200, { asked: true }]);
    const { token } = await mailed('pell@wharfside.example');
    expect(token.length).toBeGreaterThan(40);
    expect((await choose(token, 'too short')).status).toBe(422);
    expect((await choose(`${token}x`)).status).toBe(422);
    expect((await choose(token)).body).toEqual({ email: 'pell@wharfside.example' });
    expect((await pell.call('GET /api/session')).status).toBe(401);
    expect(await signIn('pell@wharfside.example', PASSWORD)).toBe(401);
    expect(await signIn('pell@wharfside.example', NEXT)).toBe(200);
    expect((await choose(token, 'a third long password')).status).toBe(422);
    expect(await signIn('pell@wharfside.example', NEXT)).toBe(200);
  });

  it('is refused when the link is old, another was used, or the account is off', async () => {
    const email = 'ines@wharfside.example';
    await ask(email);
    const { token: first } = await mailed(email);
    await ask(email);
    const { token: second } = await mailed(email);
    expect(second).not.toBe(first);
    await house.sequelize.query("UPDATE password_links SET expires_at = now() - interval '1 second'");
    expect((await choose(first)).status).toBe(422);
    await house.sequelize.query("UPDATE password_links SET expires_at = now() + interval '1 hour'");
    await house.sequelize.query("UPDATE users SET active = false WHERE email LIKE 'ines%'");
    expect((await choose(second)).status).toBe(422);
    await house.sequelize.query("UPDATE users SET active = true WHERE email LIKE 'ines%'");
    expect((await choose(second)).status).toBe(200);
    expect((await choose(first)).status).toBe(422);
  });

  it('tells nobody which addresses have an account, and mails no more than somebody needs', async () => {
    const before = house.mails.length;
    const nobody = await ask('nobody@elsewhere.example');
    expect([nobody.statusCode, nobody.json()]).toEqual([200, { asked: true }]);
    await house.work();
    expect(house.mails).toHaveLength(before);
    for (let time = 0; time < 6; time++) expect((await ask('mara@wharfside.example')).statusCode).toBe(200);
    expect((await mailed('mara@wharfside.example')).count).toBe(3);
  });

  it('its secret stands nowhere in the database in the clear', async () => {
    await house.sequelize.query('DELETE FROM password_links');
    await ask('ines@wharfside.example', '10.0.0.77');
    const [waiting] = await house.sequelize.query(
      "SELECT payload::text AS text FROM outbox WHERE kind = 'mailPasswordLink'",
    );
    const { token } = await mailed('ines@wharfside.example');
    const [links] = await house.sequelize.query('SELECT * FROM password_links');
    expect(waiting.length).toBeGreaterThan(0);
    expect(JSON.stringify([waiting, links])).not.toContain(token);
  });
});

describe('an invitation', () => {
  it('lets a colleague choose a first password; nobody signs in before', async () => {
    const email = 'nia@wharfside.example';
    const { status, body: nia } = await admin.call('POST /api/admin/users', {
      body: { name: 'Nia New', email },
    });
    expect(status).toBe(201);
    expect(await signIn(email, '')).toBe(422);
    const { token: first, text } = await mailed(email);
    expect(text).toContain('There is an account for you');
    const rep = await house.as('pell@wharfside.example').catch(() => null);
    const params = { id: nia.id };
    expect(
      (await rep?.call('POST /api/admin/users/:id/invitation', { params }))?.status ?? 401,
    ).toBeGreaterThan(400);
    expect((await admin.call('POST /api/admin/users/:id/invitation', { params })).body).toEqual({
      sent: true,
    });
    const { token, count } = await mailed(email);
    expect([count, token === first]).toEqual([2, false]);
    expect((await choose(token)).status).toBe(200);
    expect(await signIn(email, NEXT)).toBe(200);
    expect((await choose(first)).status).toBe(422);
  });
});

describe('where somebody is signed in', () => {
  it('is listed with the device, ended one by one, and nobody else’s', async () => {
    const email = 'mara@wharfside.example';
    const [here, there] = [await house.as(email), await house.as(email)];
    const listed = async (who: Client) => (await who.call('GET /api/sessions')).body.items;
    const other = (await listed(here)).filter(({ isHere }) => !isHere);
    expect((await listed(here)).filter(({ isHere }) => isHere)).toHaveLength(1);
    const theirs = (await listed(there)).find(({ isHere }) => isHere);
    expect(other.map(({ id }) => id)).toContain(theirs?.id);
    const nia = await house.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'nia@wharfside.example', password: NEXT },
    });
    const cookie = String(nia.headers['set-cookie']).split(';')[0] ?? '';
    const stranger = await house.app.inject({
      method: 'DELETE',
      url: `/api/sessions/${theirs?.id ?? ''}`,
      headers: { cookie },
    });
    expect(stranger.statusCode).toBe(404);
    const params = { id: theirs?.id ?? '' };
    expect((await here.call('DELETE /api/sessions/:id', { params })).body).toEqual({ signedOut: true });
    expect((await there.call('GET /api/session')).status).toBe(401);
    expect((await here.call('GET /api/session')).status).toBe(200);
  });

  it('every sign-in, refusal and change of a password is kept, for its owner and for admins', async () => {
    await signIn('mara@wharfside.example', 'not the password', '10.9.9.9');
    await signIn('who@elsewhere.example', 'not the password', '10.9.9.9');
    const mine = (await admin.call('GET /api/sign-ins')).body.items;
    expect(mine[0]).toMatchObject({
      what: 'refused',
      address: '10.9.9.9',
      device: 'A browser of the tests',
      name: 'Mara Quill',
    });
    expect(new Set(mine.map(({ name }) => name))).toEqual(new Set(['Mara Quill']));
    const page = (await admin.call('GET /api/admin/sign-ins', { query: { limit: '2' } })).body;
    expect(page.items.map(({ email, name }) => [email, name])).toEqual([
      ['who@elsewhere.example', null],
      ['mara@wharfside.example', 'Mara Quill'],
    ]);
    const rest = (
      await admin.call('GET /api/admin/sign-ins', { query: { limit: '100', cursor: page.next ?? '' } })
    ).body.items;
    const kinds = new Set(rest.map(({ what }) => what));
    for (const what of ['signed in', 'link asked for', 'password set'] as const)
      expect(kinds).toContain(what);
    await house.sequelize.query("UPDATE sign_in_events SET at = at - interval '181 days'");
    await signIn('who@elsewhere.example', 'not the password');
    expect(await house.count('sign_in_events')).toBe(1);
  });
});
