import { allRoutes, type RouteName } from '@emporikon/contract';
import { request as httpRequest } from 'node:http';
import { type Client, useHouse } from '../testing/harness';

const { house, pell } = useHouse();
let port = 0;
beforeAll(async () => {
  await house.app.listen({ host: '127.0.0.1', port: 0 });
  const address = house.app.server.address();
  port = typeof address === 'object' && address ? address.port : 0;
});

/** Every route that anybody may ask, and no other. */
const PUBLIC = new Set([
  'POST /api/session',
  'GET /api/session/ways',
  'POST /api/session/password-link',
  'PUT /api/session/password-link',
  'POST /api/exchange/events',
  'GET /healthz',
  'GET /readyz',
]);
/** Routes beside the contract's, which hand over files and streams. */
const FILES = [
  'GET /api/events',
  'GET /api/captures/:id/message',
  'GET /api/captures/:id/raw',
  'GET /api/captures/:id/attachments/0',
  'GET /api/people/:id/card',
  'GET /api/files/:id/content',
  'GET /api/people.csv',
  'GET /api/changes.csv',
  'GET /api/people/:id/everything.zip',
  'GET /api/people/:id/summary.pdf',
  'GET /api/companies/:id/summary.pdf',
  'GET /api/deals/:id/summary.pdf',
  'GET /api/queries.csv',
  'GET /api/queries.xlsx',
  'GET /api/queries.jsonl',
  'GET /api/queries.vcf',
  'GET /api/queries.ics',
  'GET /api/exports/:id/file',
  'GET /api/imports/:id/rejected.csv',
  'GET /api/quotes/:id/quote.pdf',
];

/** Sends a request target exactly as it is written, which `fetch` would tidy up. */
function ask(method: string, target: string, headers: Record<string, string> = {}): Promise<number> {
  return new Promise((resolve, reject) => {
    const sent = httpRequest({ host: '127.0.0.1', port, method, path: target, headers }, (response) => {
      resolve(response.statusCode ?? 0);
      response.destroy();
    });
    sent.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNRESET' ? resolve(0) : reject(error),
    );
    sent.end();
  });
}

const encode = (path: string, at: number): string =>
  path.slice(0, at) + `%${(path.charCodeAt(at) || 47).toString(16).padStart(2, '0')}` + path.slice(at + 1);

/** Ten ways to write one address, of which a router or a proxy may take each for the address itself. */
const SPELLINGS: [string, (path: string) => string][] = [
  ['as it is', (path) => path],
  ['an encoded letter of /api', (path) => encode(path, 1)],
  ['every letter of /api encoded', (path) => `/%61%70%69${path.slice(4)}`],
  ['an encoded letter at its end', (path) => encode(path, path.length - 1)],
  ['a double slash', (path) => path.replace('/', '//')],
  ['a dot segment', (path) => `/x/..${path}`],
  ['absolute form', (path) => `http://127.0.0.1${path}`],
  ['absolute form with an encoded letter', (path) => `http://elsewhere.example${encode(path, 2)}`],
  ['upper case', (path) => path.toUpperCase()],
  ['a trailing part', (path) => `${path}/`],
  ['an encoded slash', (path) => path.replace(/\/([^/]*)$/, '%2f$1')],
];

describe('nobody comes in', () => {
  const strangers: [string, () => Promise<Record<string, string>>][] = [
    ['nobody', async () => ({})],
    ['a garbage token', async () => ({ authorization: 'Bearer garbage' })],
    [
      'a revoked token',
      async () => {
        const { body } = await pell.call('POST /api/tokens', { body: { name: 'to be revoked' } });
        await pell.call('DELETE /api/tokens/:id', { params: { id: body.id } });
        return { authorization: `Bearer ${body.token}` };
      },
    ],
    [
      'an ended session',
      async () => {
        const ines = await house.app.inject({
          method: 'POST',
          url: '/api/session',
          payload: { email: 'ines@wharfside.example', password: 'a-long-test-password' },
        });
        const cookie = String(ines.headers['set-cookie']).split(';')[0] ?? '';
        await house.app.inject({ method: 'DELETE', url: '/api/session', headers: { cookie } });
        return { cookie };
      },
    ],
  ];

  it.each(strangers)('as %s, by any spelling of any route', async (_, headersOf) => {
    const headers = await headersOf();
    const answered: string[] = [];
    let asked = 0;
    for (const name of [...Object.keys(allRoutes), ...FILES].filter((key) => !PUBLIC.has(key))) {
      const [method = 'GET', pattern = '/'] = name.split(' ');
      const path = pattern.replace(/:\w+/g, crypto.randomUUID());
      await Promise.all(
        SPELLINGS.map(async ([spelling, write]) => {
          for (const verb of method === 'GET' ? ['GET', 'HEAD'] : [method]) {
            const status = await ask(verb, write(path), headers);
            asked++;
            if (![401, 400, 404, 421].includes(status))
              answered.push(`${verb} ${spelling} ${path}: ${status}`);
          }
        }),
      );
    }
    expect(answered).toEqual([]);
    expect(asked).toBeGreaterThan(2000);
  });

  it('other methods on a known address answer nothing either', async () => {
    for (const method of ['PUT', 'TRACE', 'OPTIONS', 'PATCH', 'DELETE', 'POST'])
      for (const path of ['/api/people', '/%61pi/people', '/api/people.csv'])
        expect([method, path, [401, 403, 404, 405].includes(await ask(method, path))]).toEqual([
          method,
          path,
          true,
        ]);
  });

  it('a body of a stranger is not read', async () => {
    const response = await house.app.inject({
      method: 'POST',
      url: '/api/people',
      headers: { 'content-type': 'application/json' },
      payload: '{ not even JSON',
    });
    expect(response.statusCode).toBe(401);
  });

  it('the public routes are those listed here', () => {
    const open = (Object.keys(allRoutes) as RouteName[]).filter((name) => 'open' in allRoutes[name]);
    expect(new Set(open)).toEqual(PUBLIC);
  });

  it('a known token opens the door under each spelling that the router takes for the address', async () => {
    const { body } = await pell.call('POST /api/tokens', { body: { name: 'script' } });
    const headers = { authorization: `Bearer ${body.token}` };
    expect(await ask('GET', '/%61pi/people', headers)).toBe(200);
    expect(await ask('GET', '/api/people', headers)).toBe(200);
  });
});

describe('the browser companion', () => {
  const origin = 'chrome-extension://jhfpoekclhjhenoifmbbgjldefnfpkpm';
  it('is not let in by another extension, or without a token, by any spelling', async () => {
    for (const [, write] of SPELLINGS) {
      const headers = { origin, cookie: 'emporikon_session=garbage' };
      expect([401, 400, 404, 421]).toContain(await ask('GET', write('/api/people'), headers));
    }
  });
});

describe('the name this server goes by', () => {
  it('another name finds nothing, whatever it resolves to', async () => {
    expect(await ask('GET', '/api/session', { host: 'elsewhere.example:4600' })).toBe(421);
    expect(await ask('POST', '/api/session', { host: 'elsewhere.example' })).toBe(421);
    expect(await ask('GET', '/', { host: 'elsewhere.example' })).toBe(421);
    expect(await ask('GET', '/healthz', { host: 'elsewhere.example' })).toBe(200);
  });
  it('a write from our own name under another scheme is one from another site', async () => {
    const body = { name: 'stolen' };
    const { status } = await pell.call('POST /api/tokens', {
      body,
      headers: { origin: 'https://127.0.0.1:4600', host: '127.0.0.1:4600' },
    });
    expect(status).toBe(403);
  });
});

it('answers of the API are kept in no cache', async () => {
  const response = await house.app.inject({ url: '/api/people' });
  expect(response.headers['cache-control']).toBe('no-store');
});

it('an undo takes the right that the command took, and tells nobody else its id', async () => {
  const mara = await house.as('mara@wharfside.example');
  const { body } = await mara.call('POST /api/questions', { body: { label: 'Who signs?' } });
  const undo = (who: Client) => who.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await undo(pell)).status).toBe(403);
  expect((await undo(mara)).status).toBe(200);
});
