import { allRoutes, type Parsed, type Reply, type RouteName } from '@emporikon/contract';
import type { RouteSpec } from '@emporikon/contract/common';
import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';
import type { IncomingMessage } from 'node:http';
import type { FastifyInstance, FastifyReply, FastifyRequest, RouteOptions } from 'fastify';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { limitBodiesInFlight } from './bodies';
import { operationIdOf, PROBLEMS } from './openapi';
import { requireSameOrigin } from './origin';
import { collectBody } from './rawBody';
import { keptAnswer, withIdempotencyKey } from './idempotency';

export interface Call<Name extends RouteName> {
  params: Parsed<Name, 'params'>;
  query: Parsed<Name, 'query'>;
  body: Parsed<Name, 'body'>;
  context: Context;
  request: FastifyRequest;
  /** Sets the status or a header where the route's own is not the one. */
  reply: FastifyReply;
}

/** A call before its transaction: what has to be waited for (the world, a reading, a password) is done here. */
export interface EarlyCall<Name extends RouteName> extends Omit<Call<Name>, 'context'> {
  tools: Tools;
  actor: Actor | null;
  /** Runs the command in its one transaction, once for each `Idempotency-Key`. */
  perform: (command: (context: Context) => Promise<Reply<Name>>) => Promise<Reply<Name>>;
}
type Command<Name extends RouteName> = (call: Call<Name>) => Promise<Reply<Name>>;
interface Early<Name extends RouteName> {
  early: (call: EarlyCall<Name>) => Promise<Reply<Name>>;
}

/**
 * A handler that begins outside a transaction, because it waits for something that is not the database. No connection is
 * held meanwhile; what it writes, it writes with `call.perform`.
 */
export const early = <Name extends RouteName>(
  run: (call: EarlyCall<Name>) => Promise<Reply<Name>>,
): Early<Name> => ({ early: run });

export type Handlers = { [Name in RouteName]?: Command<Name> | Early<Name> };

/** Tables and files may be large; messages are cut off earlier by their own limit, and what strangers send earlier still. */
const MOST_FILE_BYTES = 64 * 1024 * 1024;
const MOST_PUBLIC_BYTES = 1024 * 1024;

/** Runs `add` in a scope in which the named media types are handed over as bytes, JSON too. */
function inRawScope(app: FastifyInstance, spec: RouteSpec, add: (scope: FastifyInstance) => void): void {
  const types = spec.raw ?? [];
  void app.register(async (scope) => {
    scope.removeAllContentTypeParsers();
    const bodyLimit = spec.open
      ? MOST_PUBLIC_BYTES
      : types.includes('application/octet-stream')
        ? MOST_FILE_BYTES
        : MAX_MESSAGE_BYTES;
    scope.addContentTypeParser(
      [...types],
      { bodyLimit },
      (request: FastifyRequest, payload: IncomingMessage) =>
        collectBody(payload, request.headers['content-length'], bodyLimit),
    );
    limitBodiesInFlight(scope);
    add(scope);
  });
}

/** Who may, in words; nothing where everybody signed in may. */
const describeAccess = ({ right, roles }: RouteSpec): string =>
  right ? `Takes the right \`${right}\`.` : roles ? `For the roles ${roles.join(' and ')} only.` : '';

/** The route as Fastify takes it: its schemas for validation and OpenAPI, and who may call it. */
function describeRoute(name: RouteName, spec: RouteSpec): Omit<RouteOptions, 'handler'> {
  const [method = 'GET', url = '/'] = name.split(' ');
  const status = spec.status ?? 200;
  return {
    method,
    url,
    schema: {
      operationId: operationIdOf(name),
      summary: spec.summary,
      ...(describeAccess(spec) ? { description: describeAccess(spec) } : {}),
      tags: [spec.tag],
      ...(spec.params ? { params: spec.params } : {}),
      ...(spec.query ? { querystring: spec.query } : {}),
      ...(spec.body ? { body: spec.body } : {}),
      ...(spec.raw ? { consumes: [...spec.raw] } : {}),
      ...(spec.open ? { security: [] } : {}),
      response: { [status]: spec.reply, ...(status === 201 ? { 200: spec.reply } : {}), ...PROBLEMS },
    },
    config: {
      access: spec.open ? 'public' : 'actor',
      ...(spec.roles ? { roles: spec.roles } : {}),
      ...(spec.right ? { right: spec.right } : {}),
      ...(spec.tag === 'health' ? { anyHost: true } : {}),
    },
    // No body is an empty one: what is optional may be left out altogether, what is required is named.
    preValidation: async (request) => {
      if (spec.body) request.body ??= {};
    },
  };
}

/**
 * Mounts handlers on the contract's routes. Every command runs in one transaction with a context; a POST that brings an
 * `Idempotency-Key` is answered once.
 */
export function mount(app: FastifyInstance, tools: Tools, handlers: Handlers): void {
  for (const [name, handler] of Object.entries(handlers) as [
    RouteName,
    Command<RouteName> | Early<RouteName>,
  ][]) {
    const spec: RouteSpec = allRoutes[name];
    const route: RouteOptions = {
      ...describeRoute(name, spec),
      handler: async (request, reply) => {
        if (request.method !== 'GET') requireSameOrigin(request, tools.house.publicUrl);
        const { params, query, body } = request;
        const given = { params, query, body, request, reply } as Omit<Call<RouteName>, 'context'>;
        const run = (command: (context: Context) => Promise<unknown>): Promise<unknown> =>
          runInTransaction(
            tools,
            request.actor,
            (context) => {
              reply.code(spec.status ?? 200);
              return withIdempotencyKey(context, request, reply, () => command(context));
            },
            spec.right ? [spec.right] : spec.roles ? [...spec.roles] : null,
          );
        if (typeof handler === 'function') return run((context) => handler({ ...given, context }));
        const kept = await keptAnswer(tools, request, reply);
        if (kept) return kept.body;
        return handler.early({
          ...given,
          tools,
          actor: request.actor,
          perform: run as EarlyCall<RouteName>['perform'],
        });
      },
    };
    if (spec.raw) inRawScope(app, spec, (scope) => void scope.route(route));
    else app.route(route);
  }
}
