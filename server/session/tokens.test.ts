import { allRoutes, type RouteName } from '@emporikon/contract';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
const make = async (body: object) =>
  (await pell.call('POST /api/tokens', { body: { name: 'script', ...body } })).body;
const statusOf = async (token: string, method: string, url: string, payload?: object) =>
  (
    await house.app.inject({
      method: method as 'GET',
      url,
      headers: { authorization: `Bearer ${token}` },
      ...(payload ? { payload } : {}),
    })
  ).statusCode;
const CARD = 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Tova Token\r\nEND:VCARD\r\n';
const handIn = async (token: string) =>
  (
    await house.app.inject({
      method: 'POST',
      url: '/api/captures',
      headers: { authorization: `Bearer ${token}`, 'content-type': 'text/vcard' },
      payload: CARD,
    })
  ).statusCode;

it('a token for reading changes nothing, by any route', async () => {
  const { token, rights } = await make({ rights: 'read' });
  expect(rights).toBe('read');
  expect(await statusOf(token, 'GET', '/api/people')).toBe(200);
  expect(await statusOf(token, 'POST', '/api/queries', { query: { kind: 'person' } })).toBe(200);
  const map = { query: { kind: 'person' }, box: [0, 0, 1, 1] };
  expect(await statusOf(token, 'POST', '/api/queries/map', map)).toBe(200);
  expect(await statusOf(token, 'POST', '/api/people', { fullName: 'Tova Token' })).toBe(403);
  expect(await handIn(token)).toBe(403);
  for (const name of Object.keys(allRoutes) as RouteName[]) {
    const [method = '', path = ''] = name.split(' ');
    if (method === 'GET' || 'open' in allRoutes[name] || path.startsWith('/api/queries')) continue;
    const url = path.replace(/:\w+/g, '00000000-0000-4000-8000-000000000000');
    expect([name, await statusOf(token, method, url)]).toEqual([name, 403]);
  }
});

it('a token for handing in reads nothing', async () => {
  const { token } = await make({ rights: 'capture' });
  expect(await handIn(token)).toBe(201);
  for (const name of Object.keys(allRoutes) as RouteName[]) {
    const [method = '', path = ''] = name.split(' ');
    if ('open' in allRoutes[name] || name === 'POST /api/captures') continue;
    const url = path.replace(/:\w+/g, '00000000-0000-4000-8000-000000000000');
    expect([name, await statusOf(token, method, url)]).toEqual([name, 403]);
  }
  for (const url of ['/api/people.csv', '/api/queries.csv', '/api/events'])
    expect([url, await statusOf(token, 'GET', url)]).toEqual([url, 403]);
});

it('neither reads where its owner is signed in, nor makes another token', async () => {
  const { token } = await make({ rights: 'read' });
  for (const url of ['/api/tokens', '/api/sessions', '/api/sign-ins'])
    expect([url, await statusOf(token, 'GET', url)]).toEqual([url, 403]);
  expect(await statusOf(token, 'POST', '/api/tokens', { name: 'more' })).toBe(403);
});

it('ends when it is said to', async () => {
  const { token, expiresAt } = await make({ days: 30 });
  expect(Date.parse(expiresAt ?? '') - Date.now()).toBeGreaterThan(29.9 * 86_400_000);
  expect(await statusOf(token, 'GET', '/api/people')).toBe(200);
  await house.sequelize.query(
    "UPDATE access_tokens SET expires_at = now() - interval '1 second' WHERE expires_at IS NOT NULL",
  );
  expect(await statusOf(token, 'GET', '/api/people')).toBe(401);
  const whole = await make({});
  expect([whole.rights, whole.expiresAt]).toEqual(['all', null]);
  // The same card twice is one capture.
  expect(await handIn(whole.token)).toBe(200);
});
