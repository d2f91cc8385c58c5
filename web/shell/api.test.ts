import { openPage, refusal, type Page } from '../testing/page';
import { api, ApiProblem, wordsOf } from './api';

let page: Page;
beforeEach(() => (page = openPage()));
afterEach(() => page.close());
const ID = '5f0c7c9e-6c1e-4c53-9a51-0c1f1f3f9a11';

it('fills the address, leaves out what is empty and sends JSON', async () => {
  page.answers[`GET /api/people/${ID}`] = { id: ID };
  await api('GET /api/people/:id', { params: { id: ID } });
  page.answers['GET /api/people'] = { items: [], next: null };
  await api('GET /api/people', { query: { q: 'Ü & Co', cursor: undefined, tag: '' } });
  page.answers[`PATCH /api/people/${ID}`] = {};
  await api('PATCH /api/people/:id', { params: { id: ID }, body: { version: 1, jobTitle: 'Buyer' } });
  expect(page.asked.map(({ method, path }) => `${method} ${path}`)).toEqual([
    `GET /api/people/${ID}`,
    'GET /api/people',
    `PATCH /api/people/${ID}`,
  ]);
  expect([...(page.asked[1]?.query ?? [])]).toEqual([['q', 'Ü & Co']]);
  expect(page.asked[2]?.body).toEqual({ version: 1, jobTitle: 'Buyer' });
});

it('gives every POST a key of its own, or the one of a retry', async () => {
  page.answers['POST /api/people'] = {};
  const body = { fullName: 'Ines' };
  await api('POST /api/people', { body });
  await api('POST /api/people', { body });
  await api('POST /api/people', { body, key: 'again' });
  const keys = page.asked.map(({ key }) => key);
  expect(new Set(keys).size).toBe(3);
  expect(keys.every(Boolean)).toBe(true);
  expect(keys[2]).toBe('again');
});

it('throws the words of the server, and knows what is stale', async () => {
  page.answers['GET /api/people'] = refusal(409, 'stale');
  const error = await api('GET /api/people').catch((one: unknown) => one);
  expect(error).toBeInstanceOf(ApiProblem);
  expect([(error as ApiProblem).isStale, wordsOf(error)]).toEqual([true, 'stale.']);
  page.answers['GET /api/people'] = refusal(422, 'invalid');
  await expect(api('GET /api/people')).rejects.toMatchObject({ isStale: false });
});

it('says that what was typed is still there when nobody answers, or something else than our server does', async () => {
  page.answers['GET /api/people'] = () => {
    throw new TypeError('failed to fetch');
  };
  await expect(api('GET /api/people')).rejects.toMatchObject({ problem: { status: 0 } });
  page.answers['GET /api/people'] = new Response('<html>Bad gateway</html>', { status: 502 });
  const error = await api('GET /api/people').catch((one: unknown) => one);
  expect(wordsOf(error)).toMatch(/does not answer.*still here/);
});

it('has words for what is no error at all', () => {
  expect([wordsOf(new Error('boom')), wordsOf('x')]).toEqual(['boom', 'Something went wrong.']);
});
