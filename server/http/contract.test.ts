import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { allRoutes } from '@emporikon/contract';
import { Validator } from '@seriousme/openapi-schema-validator';
import { useHouse } from '../testing/harness';

const { house } = useHouse();

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

/** Lints a document with a public linter's recommended rules, in a process of its own. */
function lint(document: string): Promise<{ problems: { ruleId: string; message: string }[] }> {
  const file = join(mkdtempSync(join(tmpdir(), 'openapi-')), 'openapi.json');
  writeFileSync(file, document);
  const program = join(__dirname, '../../node_modules/.bin/redocly');
  return new Promise((resolve, reject) =>
    execFile(
      program,
      ['lint', file, '--extends=recommended', '--format=json', '--max-problems=500'],
      {
        env: { ...process.env, REDOCLY_TELEMETRY: 'off', REDOCLY_SUPPRESS_UPDATE_NOTICE: 'true' },
        maxBuffer: 32 * 1024 * 1024,
      },
      (_error, stdout) => {
        try {
          resolve(JSON.parse(stdout.slice(stdout.indexOf('{'))));
        } catch {
          reject(new Error(`the linter said: ${stdout.slice(0, 500)}`));
        }
      },
    ),
  );
}

// The run of all server tests reads it when they are done.
it('the OpenAPI document is there for the report on routes', async () => {
  const { body } = await house.app.inject({ url: '/api/openapi.json' });
  if (process.env.ROUTE_DOCUMENT) writeFileSync(process.env.ROUTE_DOCUMENT, body);
  expect(JSON.parse(body).openapi).toBe('3.1.0');
});

it('the OpenAPI document passes a public linter, and the linter would find a fault', async () => {
  const { body } = await house.app.inject({ url: '/api/openapi.json' });
  expect((await lint(body)).problems).toEqual([]);
  const broken = body.replace('"operationId":"getPeople"', '"operationId":"getCompanies"');
  expect((await lint(broken)).problems.map((problem) => problem.ruleId)).toContain(
    'operation-operationId-unique',
  );
}, 60_000);

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
