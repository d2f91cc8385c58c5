import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { User } from '../db/models/users';
import { seal, unseal } from '../mailboxes/seal';
import type { Begun, Identity } from '../outside/openId';
import { beginSession } from './begin';
import { originOf, recordSignIn } from './record';

const COOKIE = 'emporikon_openid';
const PLACE = '/openid';
const LASTS_MS = 10 * 60_000;
const MOST_A_MINUTE = 30;
/** Where somebody may be sent after it: an address of ours, in no spelling that a browser takes for another server. */
const OURS = /^\/(?![/\\])[^\\\p{Cc}]{0,500}$/u;

const Kept = z.object({
  verifier: z.string(),
  state: z.string(),
  nonce: z.string(),
  to: z.string().regex(OURS),
  until: z.number(),
});

type Problem = 'unreachable' | 'refused' | 'too-late' | 'no-account';
const backTo = (problem: Problem): string => `/sign-in?problem=${problem}`;

/** What was begun in this browser; null where nothing was, it is too long ago, or somebody changed it. */
function keptOf(request: FastifyRequest, sealKey: string, now: Date): (Begun & { to: string }) | null {
  try {
    const kept = Kept.parse(JSON.parse(unseal(request.cookies[COOKIE] ?? '', sealKey)));
    return kept.until > now.getTime() ? kept : null;
  } catch {
    return null;
  }
}

/** Whose account an identity is: the one it was linked with, or that of the verified address, which is linked now. */
async function accountOf(context: Context, { issuer, subject, email }: Identity): Promise<User | null> {
  const [linked] = await context.sequelize.query<{ id: string }>(
    'SELECT user_id AS id FROM outside_identities WHERE issuer = $issuer AND subject = $subject',
    { bind: { issuer, subject }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const where = linked ? { id: linked.id } : email ? { email } : null;
  const user = where && (await User.findOne({ where: { ...where, active: true }, transaction: context.tx }));
  if (user && !linked)
    await context.sequelize.query(
      `INSERT INTO outside_identities (issuer, subject, user_id, email, linked_at) VALUES ($issuer, $subject, $user, $email, $now)
       ON CONFLICT DO NOTHING`,
      { bind: { issuer, subject, user: user.id, email, now: context.now() }, transaction: context.tx },
    );
  return user;
}

async function begin(tools: Tools, request: FastifyRequest, reply: FastifyReply): Promise<unknown> {
  const { openId, sealKey } = tools.outside;
  if (!openId || !sealKey) return reply.redirect('/sign-in');
  const { to } = request.query as { to?: unknown };
  try {
    const { url, begun } = await openId.begin(`${tools.house.publicUrl}${PLACE}/callback`);
    const kept = {
      ...begun,
      to: typeof to === 'string' && OURS.test(to) ? to : '/arrivals',
      until: tools.now().getTime() + LASTS_MS,
    };
    reply.setCookie(COOKIE, seal(JSON.stringify(kept), sealKey), {
      path: PLACE,
      httpOnly: true,
      sameSite: 'lax',
      secure: request.protocol === 'https',
      maxAge: LASTS_MS / 1000,
    });
    return await reply.redirect(url);
  } catch (error) {
    request.log.warn({ err: error }, 'the provider of sign-in could not be reached');
    return reply.redirect(backTo('unreachable'));
  }
}

async function finish(tools: Tools, request: FastifyRequest, reply: FastifyReply): Promise<unknown> {
  const { openId, sealKey } = tools.outside;
  const kept = sealKey && keptOf(request, sealKey, tools.now());
  reply.clearCookie(COOKIE, { path: PLACE });
  if (!openId || !kept) return reply.redirect(backTo('too-late'));
  let identity: Identity;
  try {
    identity = await openId.finish(new URL(request.url, tools.house.publicUrl), kept);
  } catch (error) {
    request.log.warn({ err: error }, 'a sign-in by the provider was refused');
    return reply.redirect(backTo('refused'));
  }
  const isIn = await runInTransaction(tools, null, async (context) => {
    const user = await accountOf(context, identity);
    if (user) await beginSession(context, user, request, reply, true);
    else
      await recordSignIn(
        context,
        'refused',
        { userId: null, email: identity.email ?? '', ...originOf(request) },
        context.tx,
      );
    return user !== null;
  });
  return reply.redirect(isIn ? kept.to : backTo('no-account'));
}

/** Signing in by a provider outside: there, and back. */
export async function mountOpenId(app: FastifyInstance, tools: Tools): Promise<void> {
  await app.register(async (open) => {
    open.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
    });
    open.addHook('onSend', async (_request, reply) => {
      reply.header('cache-control', 'no-store').header('referrer-policy', 'no-referrer');
    });
    await open.register(rateLimit, { max: MOST_A_MINUTE, timeWindow: '1 minute' });
    open.get(`${PLACE}/begin`, { schema: { hide: true } }, (request, reply) => begin(tools, request, reply));
    open.get(`${PLACE}/callback`, { schema: { hide: true } }, (request, reply) =>
      finish(tools, request, reply),
    );
  });
}
