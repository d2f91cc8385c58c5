import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Context } from '../commands/context';
import { Session, type User } from '../db/models/users';
import { endSessions } from './end';
import { originOf, recordSignIn } from './record';
import { hashToken, newToken, SESSION_COOKIE, SESSION_DAYS } from './secrets';

/**
 * Begins a session of somebody who proved who they are, in the place of the one of that browser; its cookie goes with the answer.
 * @param byProvider whether a provider of sign-in said who it is
 */
export async function beginSession(
  context: Context,
  user: User,
  request: FastifyRequest,
  reply: FastifyReply,
  byProvider = false,
): Promise<void> {
  const before = request.cookies[SESSION_COOKIE];
  if (before) await endSessions(context, { tokenHash: hashToken(before) });
  const token = newToken();
  const origin = originOf(request);
  const now = context.now();
  const expiresAt = new Date(now.getTime() + SESSION_DAYS * 86_400_000);
  await Session.create(
    {
      ...{ tokenHash: hashToken(token), userId: user.id },
      ...{ createdAt: now, lastSeenAt: now, expiresAt, byProvider, ...origin },
    },
    { transaction: context.tx },
  );
  await context.sequelize.query(
    `WITH old AS (DELETE FROM sessions WHERE expires_at < $now)
     INSERT INTO sign_ins (user_id, address, at) VALUES ($user, $from, $now)
     ON CONFLICT (user_id, address) DO UPDATE SET at = excluded.at`,
    { bind: { now, user: user.id, from: origin.address }, transaction: context.tx },
  );
  await recordSignIn(context, 'signed in', { userId: user.id, email: user.email, ...origin }, context.tx);
  reply.setCookie(SESSION_COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: request.protocol === 'https',
    expires: expiresAt,
  });
}
