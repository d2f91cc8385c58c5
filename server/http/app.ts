import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import swagger from '@fastify/swagger';
import type { Tools } from '../commands/context';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import Fastify, { type FastifyBaseLogger, type FastifyInstance } from 'fastify';
import { jsonSchemaTransform, serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import { CLIPPER_ORIGIN } from '@emporikon/contract/clipper';
import { readJsonBodies } from './bodies';
import { answerErrors } from './errors';
import { logRequests, mountMetrics } from './observe';
import { followForwardings } from './forwarded';
import { mount } from './mount';
import { signCursorsWith } from './paging';
import { markApiRoutes, requireAccess } from './access';
import { allowClipper, requireOwnHost } from './origin';
import type { Room, RoomParts } from './room';
import { refuseIllFormed } from './text';
import { buildOf, serveWeb } from './web';

export interface AppOptions {
  tools: Tools;
  /** The capabilities that are served. */
  rooms: readonly Room[];
  live: RoomParts['live'];
  webRoot: string | null;
  log?: Logger;
  trustProxy?: boolean | number | string;
  /** The one browser extension that may call. */
  clipperOrigin?: string;
}

/** Where pictures of the map may come from. */
const tileOrigin = (tiles: Tools['house']['mapTiles']): string[] =>
  tiles ? [new URL(tiles.url.replace(/[{}]/g, '')).origin] : [];

/** The whole HTTP face of the program, not yet listening. */
export async function buildApp({
  tools,
  rooms,
  live,
  webRoot,
  log,
  trustProxy = false,
  clipperOrigin = CLIPPER_ORIGIN,
}: AppOptions): Promise<FastifyInstance> {
  const app = Fastify({
    // Fastify's own lines of each request are left out: `logRequests` writes one that says more.
    ...(log ? { loggerInstance: log.child({}, { level: 'warn' }) as FastifyBaseLogger } : { logger: false }),
    trustProxy: typeof trustProxy === 'number' ? (_address, hop) => hop < trustProxy : trustProxy,
    genReqId: () => randomUUID(),
    // Whoever sends a request slower than this holds a connection for nothing.
    requestTimeout: 60_000,
    bodyLimit: 1024 * 1024,
    forceCloseConnections: true,
  });
  if (tools.outside.sealKey) signCursorsWith(tools.outside.sealKey);
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  answerErrors(app);
  logRequests(app, log);
  readJsonBodies(app);
  await app.register(swagger, {
    openapi: {
      openapi: '3.1.0',
      info: {
        title: 'Emporikon',
        version: '0.1.0',
        description: 'Prospects in, people, companies and deals out.',
        license: { name: 'MIT', identifier: 'MIT' },
      },
      servers: [{ url: tools.house.publicUrl }],
      components: {
        securitySchemes: {
          cookie: { type: 'apiKey', in: 'cookie', name: 'emporikon_session' },
          token: { type: 'http', scheme: 'bearer' },
        },
      },
      security: [{ cookie: [] }, { token: [] }],
    },
    transform: jsonSchemaTransform,
  });
  await app.register(cookie);
  await app.register(helmet, {
    enableCSPNonces: true,
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'"],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', ...tileOrigin(tools.house.mapTiles)],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        frameSrc: ["'self'"],
        frameAncestors: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        manifestSrc: ["'self'"],
        upgradeInsecureRequests: null,
      },
    },
    strictTransportSecurity: false,
    xFrameOptions: { action: 'sameorigin' },
  });
  app.addHook('onClose', () => tools.readers.close());
  markApiRoutes(app);
  requireOwnHost(app, tools.house.publicUrl);
  allowClipper(app, clipperOrigin);
  for (const room of rooms) room.before?.(app, tools);
  requireAccess(app);
  refuseIllFormed(app);
  followForwardings(app, tools);
  await app.register(async (api) => {
    const build = await buildOf(webRoot);
    for (const room of rooms) {
      for (const handlers of room.routes ?? []) mount(api, tools, handlers);
      room.files?.(api, { tools, live, build });
    }
    api.get('/api/openapi.json', { schema: { hide: true }, config: { access: 'public' } }, () =>
      app.swagger(),
    );
  });
  mountMetrics(app, tools);
  for (const room of rooms) await room.pages?.(app, tools);
  await serveWeb(app, webRoot);
  return app;
}
