import type { FastifyInstance } from 'fastify';
import type { Actor, Tools } from '../commands/context';
import { mayTakeBack, unseenTables } from '../commands/rights';
import type { EventRow } from '../db/models/ledger';
import { fileSchema } from '../http/openapi';
import type { RoomParts } from '../http/room';
import { findActor } from '../session/identify';
import { hashToken, SESSION_COOKIE } from '../session/secrets';
import { PERSONAL } from './personal';

const HEARTBEAT_MS = 20_000;
const QUEUE_BYTES = 256 * 1024;

interface EventNotice {
  id?: string;
  actorId?: string | null;
  roles?: EventRow['roles'];
  endedSessions?: string[];
  command?: string;
  touched?: { table: string; id: string; of?: string[] }[];
  presence?: string;
  /** By record, who may see it, where not everybody may. */
  readers?: Record<string, string[]>;
}

/** Whoever sees a record no more has to read anew what they show, and so is told of it this once. */
const CHANGES_SIGHT = 'change visibility';

/**
 * What of a notice somebody is told: that rows changed, and the event's id only where they may take it back.
 * @returns null where it does not concern them
 */
export function noticeFor(actor: Actor, payload: string): string | null {
  const { roles = null, readers = {}, ...told } = JSON.parse(payload) as EventNotice;
  if (told.endedSessions) return null;
  const isOwn = told.actorId === actor.id;
  const isPersonal = told.touched?.some((one) => PERSONAL.has(one.table)) === true;
  if (isPersonal && !isOwn) {
    told.touched = told.touched?.filter((one) => !PERSONAL.has(one.table)) ?? [];
    if (!told.touched.length) return null;
    delete told.id;
  }
  const unseen = new Set(unseenTables(actor));
  if (unseen.size && told.touched && !isOwn) {
    told.touched = told.touched.filter(({ table }) => !unseen.has(table));
    if (!told.touched.length) return null;
  }
  const isSeen = (id: string): boolean => readers[id]?.includes(actor.id) ?? true;
  if (told.presence && !isSeen(told.presence)) return null;
  if (told.touched && told.command !== CHANGES_SIGHT) {
    told.touched = told.touched.filter(({ id, of = [] }) => [id, ...of].every(isSeen));
    if (!told.touched.length && Object.keys(readers).length) return null;
  }
  if (!mayTakeBack(actor, roles)) delete told.id;
  return JSON.stringify(told);
}

/** A page is read within a second or two; what is older is read anew in any case. */
const LONGEST_AGE_MS = 60_000;
const MARGIN_MS = 1000;

/**
 * Whether a page that was read some time before it began to listen may have missed a change in between.
 * @param age how long ago it began to read, in ms; nothing where it does not say
 * @param heardAt when something changed last, in ms since 1970, as is `now`
 */
export const mayHaveMissed = (age: number, heardAt: number, now: number): boolean =>
  age > 0 && heardAt >= now - Math.min(age, LONGEST_AGE_MS) - MARGIN_MS;

/** Server-sent events: every change by anybody on this database, as it is committed. */
export function mountLive(
  app: FastifyInstance,
  tools: Tools,
  live: RoomParts['live'],
  build: string | null,
): void {
  app.get(
    '/api/events',
    {
      schema: fileSchema('GET /api/events', {
        summary:
          'Live changes as server-sent events; with `?age=MS` a resync first, where something changed within that time',
        tag: 'events',
        mediaType: 'text/event-stream',
      }),
    },
    (request, reply) => {
      let { actor } = request;
      reply.hijack();
      const { raw } = reply;
      if (!actor) return void raw.destroy();
      raw.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store',
        connection: 'keep-alive',
        'x-accel-buffering': 'no',
      });
      raw.write(`retry: 1000\n\ndata: ${JSON.stringify({ hello: true, ...(build ? { build } : {}) })}\n\n`);
      const cookie = request.headers.authorization ? undefined : request.cookies[SESSION_COOKIE];
      const session = cookie ? hashToken(cookie) : null;
      const end = (): void => {
        raw.write('data: {"ended":true}\n\n');
        raw.end();
      };
      const unsubscribe = live.subscribe((payload) => {
        if (session && payload.includes(session)) return end();
        const notice = actor && noticeFor(actor, payload);
        if (!notice) return;
        if (raw.writableLength > QUEUE_BYTES) raw.destroy();
        else raw.write(`data: ${notice}\n\n`);
      });
      const age = Number((request.query as Record<string, string>).age);
      if (mayHaveMissed(age, live.lastHeard(), Date.now())) raw.write('data: {"resync":true}\n\n');
      const heartbeat = setInterval(() => {
        raw.write(': here\n\n');
        void findActor(tools, request).then(
          (still) => {
            if (!still) return end();
            // Their role may have been changed meanwhile.
            actor = still;
          },
          // A database that is away for a moment ends nobody's session.
          () => undefined,
        );
      }, HEARTBEAT_MS);
      request.raw.on('close', () => {
        clearInterval(heartbeat);
        unsubscribe();
      });
    },
  );
}
