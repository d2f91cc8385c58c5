import type { Me } from '@emporikon/contract/session';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import type { Actor, Context } from '../commands/context';
import { whoActs } from '../commands/context';
import { AccessToken, Session, User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { invalid, notFound, ProblemError, tooMany } from '../http/problems';
import { actorOf } from './identify';
import { hashPassword, hashToken, isPassword, newToken, SESSION_COOKIE, SESSION_DAYS } from './secrets';

const MOST_FAILURES = 8;
const MOST_FAILURES_AN_ADDRESS = 60;
const WINDOW_MINUTES = 15;

/** Verified when no user has the address, so that the answer takes as long as for a wrong password. */
let decoy: Promise<string> | null = null;

const me = (actor: Actor, context: Context): Me => ({
  ...actor,
  currency: context.house.currency,
  country: context.house.country,
});

/** Failures are counted outside the request's transaction, which the failure itself rolls back. */
async function failures(context: Context, key: string): Promise<number> {
  const [row] = await context.sequelize.query<{ count: number }>(
    'SELECT count(*)::int AS count FROM sign_in_failures WHERE key = :key AND at > :since',
    {
      replacements: { key, since: new Date(context.now().getTime() - WINDOW_MINUTES * 60_000) },
      type: QueryTypes.SELECT,
    },
  );
  return row?.count ?? 0;
}

async function noteFailure(context: Context, keys: string[]): Promise<void> {
  for (const key of keys)
    await context.sequelize.query('INSERT INTO sign_in_failures (key, at) VALUES (:key, :now)', {
      replacements: { key, now: context.now() },
    });
  await context.sequelize.query(
    "DELETE FROM sign_in_failures WHERE at < :now::timestamptz - interval '1 day'",
    { replacements: { now: context.now() } },
  );
}

export const sessionHandlers: Handlers = {
  'POST /api/session': async ({ body, context, request, reply }) => {
    const keys = [`email:${body.email}`, `from:${request.ip}`];
    const [byEmail = 0, byAddress = 0] = [
      await failures(context, keys[0] ?? ''),
      await failures(context, keys[1] ?? ''),
    ];
    if (byEmail >= MOST_FAILURES || byAddress >= MOST_FAILURES_AN_ADDRESS)
      throw tooMany(
        `Too many wrong attempts. Wait ${WINDOW_MINUTES} minutes and try again.`,
        WINDOW_MINUTES * 60,
      );
    const user = await User.findOne({ where: { email: body.email, active: true }, transaction: context.tx });
    decoy ??= hashPassword(newToken());
    if (!(await isPassword(user?.passwordHash ?? (await decoy), body.password)) || !user) {
      await noteFailure(context, keys);
      throw new ProblemError({
        type: 'urn:emporikon:problem:wrong-sign-in',
        title: 'Not signed in',
        status: 401,
        detail: 'Address or password is wrong.',
      });
    }
    const token = newToken();
    const now = context.now();
    const expiresAt = new Date(now.getTime() + SESSION_DAYS * 86_400_000);
    await Session.create(
      { tokenHash: hashToken(token), userId: user.id, createdAt: now, expiresAt },
      { transaction: context.tx },
    );
    await context.sequelize.query('DELETE FROM sessions WHERE expires_at < :now', {
      replacements: { now },
      transaction: context.tx,
    });
    reply.setCookie(SESSION_COOKIE, token, {
      path: '/',
      httpOnly: true,
      sameSite: 'lax',
      secure: request.protocol === 'https',
      expires: expiresAt,
    });
    return me(actorOf(user), context);
  },
  'GET /api/session': async ({ context }) => me(whoActs(context), context),
  'DELETE /api/session': async ({ context, request, reply }) => {
    const token = request.cookies[SESSION_COOKIE];
    if (token) await Session.destroy({ where: { tokenHash: hashToken(token) }, transaction: context.tx });
    reply.clearCookie(SESSION_COOKIE, { path: '/' });
    return { signedOut: true };
  },
  'PATCH /api/session': async ({ body, context }) => {
    if (!DateTime.now().setZone(body.timeZone).isValid)
      throw invalid('There is no such time zone.', { fields: { timeZone: 'is not an IANA time zone' } });
    const user = await User.findByPk(whoActs(context).id, { transaction: context.tx });
    if (!user) throw notFound('There is no such user.');
    await user.update({ timeZone: body.timeZone }, { transaction: context.tx });
    return me(actorOf(user), context);
  },
  'GET /api/users': async ({ context }) => {
    const users = await User.findAll({ where: { active: true }, order: ['name'], transaction: context.tx });
    return { items: users.map(({ id, name, role, team }) => ({ id, name, role, team: team ?? '' })) };
  },
  'GET /api/tokens': async ({ context }) => {
    const tokens = await AccessToken.findAll({
      where: { userId: whoActs(context).id, revokedAt: null },
      order: ['createdAt'],
      transaction: context.tx,
    });
    return {
      items: tokens.map(({ id, name, createdAt, lastUsedAt }) => ({
        id,
        name,
        createdAt: createdAt.toISOString(),
        lastUsedAt: lastUsedAt?.toISOString() ?? null,
      })),
    };
  },
  'POST /api/tokens': async ({ body, context }) => {
    const token = newToken();
    const now = context.now();
    const made = await AccessToken.create(
      {
        id: context.newId(),
        userId: whoActs(context).id,
        name: body.name,
        tokenHash: hashToken(token),
        createdAt: now,
        lastUsedAt: null,
        revokedAt: null,
      },
      { transaction: context.tx },
    );
    return { id: made.id, name: made.name, createdAt: now.toISOString(), lastUsedAt: null, token };
  },
  'DELETE /api/tokens/:id': async ({ params, context }) => {
    const token = await AccessToken.findOne({
      where: { id: params.id, userId: whoActs(context).id },
      transaction: context.tx,
    });
    if (!token) throw notFound('You have no such token.');
    await token.update({ revokedAt: context.now() }, { transaction: context.tx });
    return { revoked: true };
  },
};
