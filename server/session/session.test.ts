import { allRoutes, type RouteName } from '@emporikon/contract';
import { PASSWORD, useHouse } from '../testing/harness';

const { house } = useHouse();

describe('signing in', () => {
  it('sets an HttpOnly, SameSite cookie and keeps only its hash', async () => {
    const response = await house.app.inject({
      method: 'POST',
      url: '/api/session',
      payload: { email: 'PELL@wharfside.example ', password: PASSWORD },
    });
    const cookie = String(response.headers['set-cookie']);
    expect(response.statusCode).toBe(200);
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Lax/);
    const [rows] = await house.sequelize.query('SELECT token_hash FROM sessions');
    expect(JSON.stringify(rows)).not.toContain(cookie.split('=')[1]?.split(';')[0]);
  });

  it('keeps passwords as argon2id', async () => {
    const [rows] = await house.sequelize.query('SELECT password_hash FROM users');
    for (const row of rows as { password_hash: string }[]) expect(row.password_hash).toMatch(/^\$argon2id\$/);
  });

  it('ends when signed out', async () => {
    const pell = await house.as('pell@wharfside.example');
    expect((await pell.call('GET /api/session')).status).toBe(200);
    await pell.call('DELETE /api/session');
    expect((await pell.call('GET /api/session')).status).toBe(401);
  });

  it('says the same for a wrong password and a stranger, and stops after eight wrong attempts', async () => {
    const attempt = (email: string) =>
      house.anonymous.call('POST /api/session', { body: { email, password: 'wrong' } });
    const [wrong, stranger] = [
      await attempt('ines@wharfside.example'),
      await attempt('nobody@wharfside.example'),
    ];
    expect(wrong.status).toBe(401);
    expect({ ...wrong.body, requestId: '' }).toEqual({ ...stranger.body, requestId: '' });
    for (let tries = 1; tries < 8; tries++) await attempt('ines@wharfside.example');
    const refused = await house.anonymous.call('POST /api/session', {
      body: { email: 'ines@wharfside.example', password: PASSWORD },
    });
    expect(refused.status).toBe(429);
    expect(refused.headers['retry-after']).toBe('900');
    expect(
      (
        await house.anonymous.call('POST /api/session', {
          body: { email: 'mara@wharfside.example', password: PASSWORD },
        })
      ).status,
    ).toBe(200);
  });
});

describe('who may do what', () => {
  it('nobody may do anything without signing in, on any route', async () => {
    for (const name of Object.keys(allRoutes) as RouteName[]) {
      const isOpen = 'open' in allRoutes[name];
      const { status } = await house.anonymous.call(name, {
        params: { id: crypto.randomUUID(), questionId: crypto.randomUUID() },
        ...(name.startsWith('GET') || name.startsWith('DELETE') ? {} : { body: {} }),
      });
      expect([name, status === 401]).toEqual([name, !isOpen]);
    }
    for (const url of [
      `/api/captures/${crypto.randomUUID()}/raw`,
      `/api/captures/${crypto.randomUUID()}/message`,
      '/api/events',
    ])
      expect((await house.app.inject({ url })).statusCode).toBe(401);
  });

  it('only a manager or admin changes questions and stages', async () => {
    const [pell, mara] = [await house.as('pell@wharfside.example'), await house.as('mara@wharfside.example')];
    const body = { label: 'Who drives?' };
    expect((await pell.call('POST /api/questions', { body })).status).toBe(403);
    expect((await mara.call('POST /api/questions', { body })).status).toBe(201);
    const [stage] = (await mara.call('GET /api/stages')).body.items;
    expect(
      (
        await pell.call('PATCH /api/stages/:id', {
          params: { id: stage?.id ?? '' },
          body: { version: 1, probability: 20 },
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await mara.call('PATCH /api/stages/:id', {
          params: { id: stage?.id ?? '' },
          body: { version: 1, probability: 20 },
        })
      ).status,
    ).toBe(200);
  });

  it('a write from a page of another site is refused', async () => {
    const pell = await house.as('pell@wharfside.example');
    const body = { name: 'stolen' };
    expect(
      (await pell.call('POST /api/tokens', { body, headers: { origin: 'https://elsewhere.example' } }))
        .status,
    ).toBe(403);
    expect(
      (await pell.call('POST /api/tokens', { body, headers: { 'sec-fetch-site': 'cross-site' } })).status,
    ).toBe(403);
    expect(
      (
        await pell.call('POST /api/tokens', {
          body,
          headers: { origin: 'http://127.0.0.1:4600', host: '127.0.0.1:4600' },
        })
      ).status,
    ).toBe(201);
  });
});

describe('access tokens', () => {
  it('let a script in as their owner until revoked', async () => {
    const pell = await house.as('pell@wharfside.example');
    const { body } = await pell.call('POST /api/tokens', { body: { name: 'night import' } });
    const headers = { authorization: `Bearer ${body.token}` };
    expect((await house.anonymous.call('GET /api/session', { headers })).body.name).toBe('Pell Garrick');
    await pell.call('DELETE /api/tokens/:id', { params: { id: body.id } });
    expect((await house.anonymous.call('GET /api/session', { headers })).status).toBe(401);
  });
});

it('the page comes with a strict Content-Security-Policy', async () => {
  const policy = String((await house.app.inject({ url: '/healthz' })).headers['content-security-policy']);
  expect(policy).toContain("default-src 'none'");
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'/);
  expect(policy).not.toContain('unsafe');
});
