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

const FOR_EVER = 'public, max-age=31536000, immutable';
const SHORTLY = 'public, max-age=3600';
/** Files that stand beside the page, by what they are. */
const PLAIN = { 'favicon.svg': 'image/svg+xml', 'robots.txt': 'text/plain' } as const;

/** What has a hash in its name never changes; what has none is asked for again soon. */
const cacheOf = (path: string): string => (/-[\w-]{8}\.\w+(?:\.(?:br|gz))?$/.test(path) ? FOR_EVER : SHORTLY);

/** Serves the built interface, compressed at build time: hashed assets for ever, the page itself fresh and with this request's nonce. */
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
      preCompressed: true,
      cacheControl: false,
      index: false,
      setHeaders(reply, path) {
        reply.setHeader('cache-control', cacheOf(path));
        reply.setHeader('vary', 'accept-encoding');
      },
    });
    for (const [name, type] of Object.entries(PLAIN)) {
      const body = await readFile(join(root, name)).catch(() => null);
      if (body)
        assets.get(`/${name}`, (_request, reply) =>
          reply.type(type).header('cache-control', SHORTLY).send(body),
        );
    }
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
