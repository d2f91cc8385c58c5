import fastify, { type FastifyInstance } from 'fastify';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib';
import { serveWeb } from './web';

const SCRIPT = 'export const words = "cargo bikes";'.repeat(100);
let root: string;
let app: FastifyInstance;

beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), 'web-'));
  await mkdir(join(root, 'assets'));
  await writeFile(join(root, 'index.html'), '<meta content="__NONCE__"><meta content="__BUILD__">');
  await writeFile(join(root, 'robots.txt'), 'User-agent: *\n');
  await writeFile(join(root, 'assets/app-Ab3_dE-9.js'), SCRIPT);
  await writeFile(join(root, 'assets/app-Ab3_dE-9.js.br'), brotliCompressSync(SCRIPT));
  await writeFile(join(root, 'assets/app-Ab3_dE-9.js.gz'), gzipSync(SCRIPT));
  await writeFile(join(root, 'assets/form.css'), 'body { margin: 0 }');
  app = fastify();
  app.decorateReply('cspNonce', { getter: () => ({ style: 'a-nonce', script: 'a-nonce' }) });
  await serveWeb(app, root);
});
afterAll(async () => {
  await app.close();
  await rm(root, { recursive: true });
});

const get = (url: string, encoding = 'identity') =>
  app.inject({ url, headers: { 'accept-encoding': encoding } });

it('sends what was compressed at build time, in the best way the browser takes', async () => {
  const url = '/assets/app-Ab3_dE-9.js';
  const [br, gz, plain] = [await get(url, 'gzip, br'), await get(url, 'gzip'), await get(url)];
  expect(br.headers).toMatchObject({
    'content-encoding': 'br',
    vary: expect.stringMatching(/accept-encoding/i),
  });
  expect(brotliDecompressSync(br.rawPayload).toString()).toBe(SCRIPT);
  expect(gz.headers['content-encoding']).toBe('gzip');
  expect(gunzipSync(gz.rawPayload).toString()).toBe(SCRIPT);
  expect([plain.headers['content-encoding'], plain.body]).toEqual([undefined, SCRIPT]);
  for (const { headers } of [br, gz, plain]) {
    expect(headers['content-type']).toMatch(/javascript/);
    expect(headers['cache-control']).toBe('public, max-age=31536000, immutable');
  }
});

it('keeps for ever only what has a hash in its name', async () => {
  expect((await get('/assets/form.css', 'br')).headers['cache-control']).toBe('public, max-age=3600');
  const page = await get('/people');
  expect(page.headers['cache-control']).toBe('no-store');
  expect(page.body).toContain('content="a-nonce"');
  expect(page.body).not.toContain('__BUILD__');
});

it('has a robots.txt, no favicon where none was built, and no file outside its folder', async () => {
  expect((await get('/robots.txt')).body).toBe('User-agent: *\n');
  expect((await get('/favicon.svg')).headers['content-type']).toMatch(/html/);
  expect((await get('/assets/..%2findex.html')).statusCode).toBe(403);
});
