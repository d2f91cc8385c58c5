import type { FastifyInstance, FastifyRequest } from 'fastify';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Actor, Tools } from '../commands/context';
import { AccessToken, RoleRow, User } from '../db/models/users';
import { hashToken, IDLE_DAYS, SESSION_COOKIE } from './secrets';

/** How often a session in use is noted as such. */
const SEEN_EVERY_MS = 10 * 60_000;

declare module 'fastify' {
  interface FastifyRequest {
    actor: Actor | null;
  }
}

/** Somebody as who acts, with the rights of their own role where they have one. */
export async function actorOf(user: User, transaction: Transaction | null = null): Promise<Actor> {
  const { id, name, email, role, timeZone } = user;
  const own = user.roleId ? await RoleRow.findByPk(user.roleId, { transaction }) : null;
  return { id, name, email, role, timeZone, ...(own ? { granted: own.rights } : {}) };
}

/** Who something is done for in the background, whether they still work here or not; null where there is no such account. */
export async function findActorById(id: string): Promise<Actor | null> {
  const user = await User.findByPk(id);
  return user ? actorOf(user) : null;
}

/** As `findActorById`, null for somebody whose account was closed. */
export async function findActiveActor(id: string): Promise<Actor | null> {
  const user = await User.findOne({ where: { id, active: true } });
  return user ? actorOf(user) : null;
}

/** Session and user in one question: this one is asked before everything else. A session that lay idle is over. */
async function byCookie({ sequelize, now }: Tools, token: string): Promise<Actor | null> {
  const at = now();
  const [row] = await sequelize.query<
    Actor & { lastSeenAt: Date; own: Actor['granted'] | null; must: boolean }
  >(
    `SELECT u.id, u.name, u.email, u.role, u.time_zone AS "timeZone", s.last_seen_at AS "lastSeenAt", r.rights AS own,
            NOT s.by_provider AND must_add_code(u.id, u.role) AS must
       FROM sessions s JOIN users u ON u.id = s.user_id LEFT JOIN roles r ON r.id = u.role_id
      WHERE s.token_hash = $hash AND s.expires_at > $at AND s.last_seen_at > $idleSince AND u.active`,
    {
      bind: { hash: hashToken(token), at, idleSince: new Date(at.getTime() - IDLE_DAYS * 86_400_000) },
      type: QueryTypes.SELECT,
    },
  );
  if (!row) return null;
  const { lastSeenAt, own, must, ...rest } = row;
  const actor = { ...rest, ...(must ? { mustAddCode: true as const } : {}) };
  if (at.getTime() - lastSeenAt.getTime() > SEEN_EVERY_MS)
    await sequelize.query('UPDATE sessions SET last_seen_at = $at WHERE token_hash = $hash', {
      bind: { hash: hashToken(token), at },
    });
  return own ? { ...actor, granted: own } : actor;
}

async function byToken(token: string, now: Date): Promise<Actor | null> {
  const access = await AccessToken.findOne({ where: { tokenHash: hashToken(token), revokedAt: null } });
  if (!access || (access.expiresAt && access.expiresAt <= now)) return null;
  if (!access.lastUsedAt || now.getTime() - access.lastUsedAt.getTime() > 60_000)
    await access.update({ lastUsedAt: now });
  const actor = await findActiveActor(access.userId);
  return actor && access.rights !== 'all' ? { ...actor, rights: access.rights } : actor;
}

/** Who asks, by access token or cookie; null when neither is one of ours any more. */
export async function findActor(tools: Tools, request: FastifyRequest): Promise<Actor | null> {
  const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
  if (bearer) return byToken(bearer, tools.now());
  const cookie = request.cookies[SESSION_COOKIE];
  return cookie ? byCookie(tools, cookie) : null;
}

/** Finds out who asks. Whether they may is decided by the route they reached (`http/access.ts`). */
export function identify(app: FastifyInstance, tools: Tools): void {
  app.decorateRequest('actor', null);
  app.addHook('onRequest', async (request) => {
    if (!request.is404) request.actor = await findActor(tools, request);
  });
}
