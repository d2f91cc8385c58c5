import { allRoutes, type Parsed, type Reply, type RouteName } from '@emporikon/contract';
import { Problem, type RouteSpec } from '@emporikon/contract/common';
import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';
import type { FastifyInstance, FastifyReply, FastifyRequest, RouteOptions } from 'fastify';
import { perform, type Context, type Tools } from '../commands/context';
import { requireSameOrigin } from './origin';
import { forbidden } from './problems';
import { once } from './once';

export interface Call<Name extends RouteName> {
  params: Parsed<Name, 'params'>;
  query: Parsed<Name, 'query'>;
  body: Parsed<Name, 'body'>;
  context: Context;
  request: FastifyRequest;
  /** Sets the status or a header where the route's own is not the one. */
  reply: FastifyReply;
}

export type Handlers = { [Name in RouteName]?: (call: Call<Name>) => Promise<Reply<Name>> };

/** Tables and mailboxes may be large; messages are cut off earlier by their own limit. */
const MOST_RAW_BYTES = 64 * 1024 * 1024;

/** Runs `add` in a scope in which the named media types are handed over as bytes, JSON too. */
function inRawScope(
  app: FastifyInstance,
  types: readonly string[],
  add: (scope: FastifyInstance) => void,
): void {
  void app.register(async (scope) => {
    scope.removeAllContentTypeParsers();
    const bodyLimit = types.includes('text/csv') ? MOST_RAW_BYTES : MAX_MESSAGE_BYTES;
    scope.addContentTypeParser([...types], { parseAs: 'buffer', bodyLimit }, (_request, body, done) =>
      done(null, body),
    );
    add(scope);
  });
}

const PROBLEMS = { '4xx': Problem, '5xx': Problem };

/**
 * Mounts handlers on the contract's routes. Every call runs in one transaction with a context; a POST that brings an
 * `Idempotency-Key` is answered once.
 */
export function mount(app: FastifyInstance, tools: Tools, handlers: Handlers): void {
  for (const [name, handler] of Object.entries(handlers) as [
    RouteName,
    (call: Call<RouteName>) => Promise<unknown>,
  ][]) {
    const [method = 'GET', url = '/'] = name.split(' ');
    const spec: RouteSpec = allRoutes[name];
    const status = spec.status ?? 200;
    const route: RouteOptions = {
      method,
      url,
      schema: {
        summary: spec.summary,
        tags: [spec.tag],
        ...(spec.params ? { params: spec.params } : {}),
        ...(spec.query ? { querystring: spec.query } : {}),
        ...(spec.body ? { body: spec.body } : {}),
        ...(spec.raw ? { consumes: [...spec.raw] } : {}),
        ...(spec.open ? { security: [] } : {}),
        response: { [status]: spec.reply, ...(status === 201 ? { 200: spec.reply } : {}), ...PROBLEMS },
      },
      config: { open: spec.open ?? false },
      // No body is an empty one: what is optional may be left out altogether, what is required is named.
      preValidation: async (request) => {
        if (spec.body) request.body ??= {};
      },
      handler: async (request, reply) => {
        if (method !== 'GET') requireSameOrigin(request);
        if (spec.roles && !spec.roles.includes(request.actor?.role ?? 'rep'))
          throw forbidden(`Only a ${spec.roles.join(' or ')} may do this.`);
        return perform(tools, request.actor, (context) => {
          reply.code(status);
          const call = {
            params: request.params,
            query: request.query,
            body: request.body,
            context,
            request,
            reply,
          } as Call<RouteName>;
          return once(context, request, reply, () => handler(call));
        });
      },
    };
    if (spec.raw) inRawScope(app, spec.raw, (scope) => void scope.route(route));
    else app.route(route);
  }
}
