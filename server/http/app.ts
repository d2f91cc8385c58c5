import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import swagger from '@fastify/swagger';
import { callHandlers } from '../calls/routes';
import { captureHandlers, mountMessageViews } from '../captures/routes';
import { companyHandlers } from '../companies/routes';
import { dealHandlers } from '../deals/routes';
import { mountLive } from '../events/routes';
import type { LiveFeed } from '../events/live';
import { fieldHandlers } from '../fields/routes';
import { mountPublicForms } from '../forms/public';
import { forecastHandlers } from '../forecast/routes';
import { formHandlers } from '../forms/routes';
import { chooseHandlers } from '../imports/choose';
import { importHandlers, mountImportFiles } from '../imports/routes';
import { leadHandlers } from '../leads/routes';
import { ledgerHandlers } from '../ledger/routes';
import { lookAlikeHandlers } from '../lookalikes/routes';
import { lookUpHandlers } from '../lookups/routes';
import { mailboxHandlers } from '../mailboxes/routes';
import { mountPeopleFiles } from '../people/files';
import { peopleHandlers } from '../people/routes';
import { pipelineHandlers } from '../pipelines/routes';
import { productHandlers } from '../products/routes';
import { qualifyingHandlers } from '../qualifying/routes';
import { mountQuoteFiles, quoteHandlers } from '../quotes/routes';
import { relationHandlers } from '../relations/routes';
import { searchHandlers } from '../search/routes';
import { identify } from '../session/identify';
import { sessionHandlers } from '../session/routes';
import { tokenHandlers } from '../session/tokens';
import { userHandlers } from '../session/users';
import { hostHandlers } from '../settings/hosts';
import { settingsHandlers } from '../settings/routes';
import { taskHandlers } from '../tasks/routes';
import { triageHandlers } from '../triage/routes';
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
import { markApiRoutes, requireAccess } from './access';
import { allowClipper, requireOwnHost } from './origin';
import { refuseIllFormed } from './text';
import { buildOf, serveWeb } from './web';

export interface AppOptions {
  tools: Tools;
  live: LiveFeed;
  webRoot: string | null;
  log?: Logger;
  trustProxy?: boolean | number | string;
  /** The one browser extension that may call. */
  clipperOrigin?: string;
}

/** The whole HTTP face of the program, not yet listening. */
export async function buildApp({
  tools,
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
        imgSrc: ["'self'", 'data:'],
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
  identify(app, tools);
  requireAccess(app);
  refuseIllFormed(app);
  followForwardings(app, tools);
  const handlers = [
    sessionHandlers,
    tokenHandlers,
    userHandlers,
    captureHandlers,
    peopleHandlers,
    companyHandlers,
    leadHandlers,
    dealHandlers,
    taskHandlers,
    ledgerHandlers,
    searchHandlers,
    settingsHandlers,
    hostHandlers,
    fieldHandlers,
    callHandlers,
    formHandlers,
    chooseHandlers,
    importHandlers,
    mailboxHandlers,
    lookAlikeHandlers,
    lookUpHandlers,
    qualifyingHandlers,
    triageHandlers,
    pipelineHandlers,
    productHandlers,
    quoteHandlers,
    forecastHandlers,
    relationHandlers,
  ];
  await app.register(async (api) => {
    for (const one of handlers) mount(api, tools, one);
    mountPeopleFiles(api, tools);
    mountImportFiles(api, tools);
    mountQuoteFiles(api, tools);
    mountMessageViews(api, tools);
    mountLive(api, tools, live, await buildOf(webRoot));
    api.get('/api/openapi.json', { schema: { hide: true }, config: { access: 'public' } }, () =>
      app.swagger(),
    );
  });
  mountMetrics(app, tools);
  await mountPublicForms(app, tools);
  await serveWeb(app, webRoot);
  return app;
}
