import type { FastifyInstance } from 'fastify';
import { QueryTypes } from 'sequelize';
import type { Actor, Tools } from '../commands/context';
import { AccessToken, User } from '../db/models/users';
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

/** Session and user in one question: this one is asked before everything else. */
async function byCookie({ sequelize, now }: Tools, token: string): Promise<Actor | null> {
  const [row] = await sequelize.query<Actor>(
    `SELECT u.id, u.name, u.email, u.role, u.time_zone AS "timeZone" FROM sessions s JOIN users u ON u.id = s.user_id
      WHERE s.token_hash = $hash AND s.expires_at > $now AND u.active`,
    { bind: { hash: hashToken(token), now: now() }, type: QueryTypes.SELECT },
  );
  return row ?? null;
}

async function byToken(token: string, now: Date): Promise<Actor | null> {
  const access = await AccessToken.findOne({ where: { tokenHash: hashToken(token), revokedAt: null } });
  if (!access) return null;
  if (!access.lastUsedAt || now.getTime() - access.lastUsedAt.getTime() > 60_000)
    await access.update({ lastUsedAt: now });
  const user = await User.findOne({ where: { id: access.userId, active: true } });
  return user ? actorOf(user) : null;
}

/** Finds out who asks, by cookie or access token, and turns away whom a route does not let in. */
export function identify(app: FastifyInstance, tools: Tools): void {
  app.decorateRequest('actor', null);
  app.addHook('onRequest', async (request) => {
    if (!request.url.startsWith('/api/')) return;
    const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const cookie = request.cookies[SESSION_COOKIE];
    request.actor = bearer
      ? await byToken(bearer, tools.now())
      : cookie
        ? await byCookie(tools, cookie)
        : null;
    if (!request.actor && request.routeOptions.config?.open !== true && request.routeOptions.url)
      throw signedOut('Sign in first.');
  });
}
