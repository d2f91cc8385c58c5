import type { FastifyInstance } from 'fastify';
import { Op } from 'sequelize';
import type { Actor, Tools } from '../commands/context';
import { AccessToken, Session, User } from '../db/models/users';
import { signedOut } from '../http/problems';
import { hashToken, SESSION_COOKIE } from './secrets';

declare module 'fastify' {
  interface FastifyRequest {
    actor: Actor | null;
  }
  interface FastifyContextConfig {
    /** Needs no sign-in. */
    open?: boolean;
  }
}

export const actorOf = (user: User): Actor => ({
  id: user.id,
  name: user.name,
  email: user.email,
  role: user.role,
  timeZone: user.timeZone,
});

async function byCookie(token: string, now: Date): Promise<User | null> {
  const session = await Session.findOne({
    where: { tokenHash: hashToken(token), expiresAt: { [Op.gt]: now } },
  });
  return session ? User.findOne({ where: { id: session.userId, active: true } }) : null;
}

async function byToken(token: string, now: Date): Promise<User | null> {
  const access = await AccessToken.findOne({ where: { tokenHash: hashToken(token), revokedAt: null } });
  if (!access) return null;
  if (!access.lastUsedAt || now.getTime() - access.lastUsedAt.getTime() > 60_000)
    await access.update({ lastUsedAt: now });
  return User.findOne({ where: { id: access.userId, active: true } });
}

/** Finds out who asks, by cookie or access token, and turns away whom a route does not let in. */
export function identify(app: FastifyInstance, tools: Tools): void {
  app.decorateRequest('actor', null);
  app.addHook('onRequest', async (request) => {
    if (!request.url.startsWith('/api/')) return;
    const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const cookie = request.cookies[SESSION_COOKIE];
    const user = bearer
      ? await byToken(bearer, tools.now())
      : cookie
        ? await byCookie(cookie, tools.now())
        : null;
    request.actor = user ? actorOf(user) : null;
    if (!request.actor && request.routeOptions.config?.open !== true && request.routeOptions.url)
      throw signedOut('Sign in first.');
  });
}
