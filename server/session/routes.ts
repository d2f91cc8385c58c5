import type { Me } from '@emporikon/contract/session';
import { completeRights, RIGHTS_OF } from '@emporikon/core/rights/rights';
import { isHolidayPlace } from '@emporikon/core/calendar/holidays';
import { DateTime } from 'luxon';
import type { Context, Tools } from '../commands/context';
import { requireActor } from '../commands/context';
import { User } from '../db/models/users';
import { remindAnew } from '../tasks/reminders';
import { early, type Handlers } from '../http/mount';
import { invalid, notFound, ProblemError } from '../http/problems';
import { tryPassword } from './attempts';
import { beginSession } from './begin';
import { endSessions } from './end';
import { actorOf } from './identify';
import { originOf, recordSignIn, type Origin } from './record';
import { codeWanted, findFactor, isObliged, requireProof, useProof, wrongCode } from './secondStep';
import { hashPassword, hashToken, isPassword, newToken, SESSION_COOKIE } from './secrets';

/** Verified when no user has the address, so that the answer takes as long as for a wrong password. */
let decoy: Promise<string> | null = null;

async function meOf(user: User, context: Context, mustAddCode: boolean): Promise<Me> {
  const { granted, ...actor } = await actorOf(user, context.tx);
  return {
    ...actor,
    rights: granted ? completeRights(granted) : [...RIGHTS_OF[actor.role]],
    locale: user.locale ?? null,
    holidays: user.holidays ?? null,
    worksFrom: user.worksFrom,
    worksUntil: user.worksUntil,
    cardFirst: user.cardFirst ?? {},
    currency: context.house.currency,
    country: context.house.country,
    mustAddCode,
  };
}

const wrongSignIn = (): ProblemError =>
  new ProblemError({
    type: 'urn:emporikon:problem:wrong-sign-in',
    title: 'Not signed in',
    status: 401,
    detail: 'Address or password is wrong.',
  });

async function loadUser(context: Context): Promise<User> {
  const user = await User.findByPk(requireActor(context).id, { transaction: context.tx, lock: true });
  if (!user) throw notFound('There is no such user.');
  return user;
}

/** The second step, for an account that has one. @throws 401 where the code is missing or wrong */
async function proofOfSignIn(
  tools: Tools,
  user: User,
  code: string | undefined,
  factor: NonNullable<Awaited<ReturnType<typeof findFactor>>>,
  origin: Origin,
): ReturnType<typeof requireProof> {
  if (!code?.trim()) throw codeWanted();
  try {
    return await requireProof(tools, user, code, factor);
  } catch (error) {
    await recordSignIn(tools, 'code refused', { userId: user.id, email: user.email, ...origin });
    throw error;
  }
}

export const sessionHandlers: Handlers = {
  'POST /api/session': early(async ({ body, request, reply, tools, perform }) => {
    const attempt = { email: body.email, from: request.ip };
    const origin = originOf(request);
    const user = await User.findOne({ where: { email: body.email, active: true } });
    decoy ??= hashPassword(newToken());
    const known = user?.passwordHash ?? (await decoy);
    const isRight = await tryPassword(
      tools,
      attempt,
      async () => (await isPassword(known, body.password)) && user !== null,
    );
    if (!isRight || !user) {
      await recordSignIn(tools, 'refused', { userId: user?.id ?? null, email: body.email, ...origin });
      throw wrongSignIn();
    }
    const factor = await findFactor(tools, user.id);
    const proof = factor?.confirmed_at && (await proofOfSignIn(tools, user, body.code, factor, origin));
    return perform(async (context) => {
      if (proof && !(await useProof(context, user.id, proof))) throw wrongCode();
      const who = { userId: user.id, email: user.email, ...origin };
      if (proof && 'recoveryId' in proof) await recordSignIn(context, 'recovery code used', who, context.tx);
      await beginSession(context, user, request, reply);
      return meOf(user, context, await isObliged(context, user));
    });
  }),
  'GET /api/session/ways': async ({ context: { outside } }) => ({
    openId: outside.openId && outside.sealKey ? { name: outside.openId.name } : null,
  }),
  'GET /api/session': async ({ context }) => {
    const { id } = requireActor(context);
    const user = await User.findByPk(id, { transaction: context.tx, rejectOnEmpty: true });
    return meOf(user, context, context.actor?.mustAddCode ?? false);
  },
  'DELETE /api/session': async ({ context, request, reply }) => {
    const token = request.cookies[SESSION_COOKIE];
    if (token) await endSessions(context, { tokenHash: hashToken(token) });
    const { id, email } = requireActor(context);
    await recordSignIn(context, 'signed out', { userId: id, email, ...originOf(request) }, context.tx);
    reply.clearCookie(SESSION_COOKIE, { path: '/' });
    return { signedOut: true };
  },
  'DELETE /api/admin/users/:id/sessions': async ({ params, context }) => {
    if (!(await User.findByPk(params.id, { transaction: context.tx })))
      throw notFound('There is no such account.');
    return { ended: await endSessions(context, { userId: params.id }) };
  },
  'DELETE /api/admin/sessions': async ({ context, request }) => {
    const here = request.cookies[SESSION_COOKIE];
    return { ended: await endSessions(context, { userId: null, except: here ? hashToken(here) : null }) };
  },
  'DELETE /api/sessions': async ({ context, reply }) => {
    await endSessions(context, { userId: requireActor(context).id });
    reply.clearCookie(SESSION_COOKIE, { path: '/' });
    return { signedOut: true };
  },
  'PUT /api/session/password': early(async ({ body, request, tools, actor, perform }) => {
    const user = actor && (await User.findByPk(actor.id));
    if (!user) throw notFound('There is no such user.');
    const attempt = { email: user.email, from: request.ip };
    if (!(await tryPassword(tools, attempt, () => isPassword(user.passwordHash, body.current))))
      throw invalid('That is not your current password. Nothing was changed.', {
        fields: { current: 'is wrong' },
      });
    const passwordHash = await hashPassword(body.next);
    const token = request.cookies[SESSION_COOKIE];
    return perform(async (context) => {
      await (await loadUser(context)).update({ passwordHash }, { transaction: context.tx });
      await endSessions(context, { userId: user.id, except: token ? hashToken(token) : null });
      const who = { userId: user.id, email: user.email };
      await recordSignIn(context, 'password changed', { ...who, ...originOf(request) }, context.tx);
      return { changed: true };
    });
  }),
  'PATCH /api/session': async ({ body, context }) => {
    if (body.timeZone && !DateTime.now().setZone(body.timeZone).isValid)
      throw invalid('There is no such time zone.', { fields: { timeZone: 'is not an IANA time zone' } });
    if (body.holidays && !isHolidayPlace(body.holidays))
      throw invalid('The holidays of this place are not known.', { fields: { holidays: 'is not known' } });
    const user = await loadUser(context);
    if ((body.worksFrom ?? user.worksFrom) >= (body.worksUntil ?? user.worksUntil))
      throw invalid('A working day ends after it begins.', { fields: { worksUntil: 'is before it begins' } });
    await user.update(body, { transaction: context.tx });
    if (body.timeZone) await remindAnew(context, user);
    return meOf(user, context, context.actor?.mustAddCode ?? false);
  },
};
