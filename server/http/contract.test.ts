import { allRoutes } from '@emporikon/contract';
import { Validator } from '@seriousme/openapi-schema-validator';
import { openHouse, type House } from '../testing/harness';

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

describe('the OpenAPI document', () => {
  it('is valid by the OpenAPI schema and describes every route of the contract', async () => {
    const document = (await house.app.inject({ url: '/api/openapi.json' })).json<{
      paths: Record<string, Record<string, unknown>>;
    }>();
    const { valid, errors } = await new Validator().validate(document as never);
    expect([valid, errors]).toEqual([true, undefined]);
    for (const name of Object.keys(allRoutes)) {
      const [method = '', path = ''] = name.split(' ');
      expect(Object.keys(document.paths[path.replace(/:(\w+)/g, '{$1}')] ?? {})).toContain(
        method.toLowerCase(),
      );
    }
    for (const path of ['/api/events', '/api/captures/{id}/message', '/api/captures/{id}/raw'])
      expect(document.paths).toHaveProperty([path]);
  });
});

describe('problems', () => {
  const url = '/api/session';
  it('name the field that is wrong', async () => {
    const response = await house.app.inject({ method: 'POST', url, payload: { email: 'a@b.example' } });
    expect(response.statusCode).toBe(422);
    expect(response.headers['content-type']).toContain('application/problem+json');
    expect(response.json().fields).toHaveProperty('password');
  });
  it('are given for bad JSON, unknown addresses and unknown records', async () => {
    expect(
      (
        await house.app.inject({
          method: 'POST',
          url,
          payload: '{',
          headers: { 'content-type': 'application/json' },
        })
      ).json().type,
    ).toBe('urn:emporikon:problem:invalid');
    expect((await house.app.inject({ url: '/api/nothing' })).json().type).toBe(
      'urn:emporikon:problem:not-found',
    );
    const pell = await house.as('pell@wharfside.example');
    expect((await pell.call('GET /api/people/:id', { params: { id: crypto.randomUUID() } })).body.type).toBe(
      'urn:emporikon:problem:not-found',
    );
    expect((await pell.call('GET /api/people/:id', { params: { id: 'x' } })).status).toBe(422);
  });
});
