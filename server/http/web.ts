import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { looksLikeApi } from './access';
import { noSuchRoute } from './errors';

/** A name for the interface that is served: a page that was made of another one is from before an upgrade. */
export async function buildOf(root: string | null): Promise<string | null> {
  if (!root) return null;
  const page = await readFile(join(root, 'index.html'), 'utf8');
  return createHash('sha256').update(page).digest('hex').slice(0, 16);
}

/** Serves the built interface: hashed assets for a year, the page itself fresh and with this request's nonce. */
export async function serveWeb(app: FastifyInstance, root: string | null): Promise<void> {
  if (!root) {
    app.setNotFoundHandler((_request, reply) => noSuchRoute(reply));
    return;
  }
  await app.register(async (assets) => {
    assets.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
    });
    await assets.register(fastifyStatic, {
      root: join(root, 'assets'),
      prefix: '/assets/',
      immutable: true,
      maxAge: '365d',
      index: false,
    });
  });
  const page = await readFile(join(root, 'index.html'), 'utf8');
  const build = await buildOf(root);
  app.setNotFoundHandler((request, reply) => {
    if (request.method !== 'GET' || looksLikeApi(request.url)) return noSuchRoute(reply);
    return reply
      .type('text/html')
      .header('cache-control', 'no-store')
      .send(page.replaceAll('__NONCE__', reply.cspNonce.style).replace('__BUILD__', build ?? ''));
  });
}
