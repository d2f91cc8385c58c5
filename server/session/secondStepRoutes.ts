import type { SecondStep } from '@emporikon/contract/secondStep';
import { QueryTypes } from 'sequelize';
import { requireActor, type Actor, type Context, type Tools } from '../commands/context';
import { SignInRules, User } from '../db/models/users';
import { early, type Handlers } from '../http/mount';
import { conflict, invalid, notFound } from '../http/problems';
import { sealPassword } from '../mailboxes/seal';
import { tryPassword } from './attempts';
import { endSessions } from './end';
import { originOf, recordSignIn } from './record';
import { hashToken, isPassword, SESSION_COOKIE } from './secrets';
import {
  findFactor,
  keepRecoveryCodes,
  makeRecoveryCodes,
  removeFactor,
  requireProof,
  useProof,
  wrongCode,
} from './secondStep';
import { newSecret, uriOf } from './totp';

interface Asked {
  tools: Tools;
  actor: Actor | null;
  request: Parameters<typeof originOf>[0];
}

async function requireUser({ actor }: Asked): Promise<User> {
  const user = actor && (await User.findByPk(actor.id));
  if (!user) throw notFound('There is no such user.');
  return user;
}

/** Who changes how they sign in says their password again. @throws 422 for a wrong one, 429 after too many */
async function requirePassword(asked: Asked, password: string): Promise<User> {
  const user = await requireUser(asked);
  const attempt = { email: user.email, from: originOf(asked.request).address };
  if (await tryPassword(asked.tools, attempt, () => isPassword(user.passwordHash, password))) return user;
  throw invalid('That is not your current password. Nothing was changed.', {
    fields: { password: 'is wrong' },
  });
}

/** A code that proves something, of an account where a code is asked for. @throws 409 where it is off, 422 for a wrong code */
async function requireCode(
  { tools }: Asked,
  user: User,
  code: string,
): Promise<Awaited<ReturnType<typeof requireProof>>> {
  const factor = await findFactor(tools, user.id);
  if (!factor?.confirmed_at) throw conflict('Signing in with a code is off. Nothing was changed.');
  return requireProof(tools, user, code, factor).catch(asField);
}

/** Somebody who is signed in is told at the field, and not that they are not signed in. */
function asField(error: unknown): never {
  const { status, detail } = (error as { problem?: { status?: number; detail?: string } }).problem ?? {};
  if (status === 401) throw invalid(detail ?? '', { fields: { code: 'is wrong' } });
  throw error;
}

async function useUp(context: Context, userId: string, proof: Awaited<ReturnType<typeof requireProof>>) {
  if (!(await useProof(context, userId, proof))) asField(wrongCode());
}

async function stateOf(context: Context): Promise<SecondStep> {
  const actor = requireActor(context);
  const [row] = await context.sequelize.query<{ since: Date | null; n: number; wanted: boolean }>(
    `SELECT (SELECT confirmed_at FROM second_factors WHERE user_id = $id) AS since,
            (SELECT count(*)::int FROM recovery_codes WHERE user_id = $id) AS n,
            EXISTS (SELECT 1 FROM sign_in_rules WHERE codes = 'everybody' OR (codes = 'managers' AND $role <> 'rep')) AS wanted`,
    { bind: { id: actor.id, role: actor.role }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return {
    since: row?.since?.toISOString() ?? null,
    codesLeft: row?.n ?? 0,
    isWanted: row?.wanted ?? false,
    isPossible: context.outside.sealKey !== null,
  };
}

/** A second step of signing in: begun, confirmed, its recovery codes, and its end. */
export const secondStepHandlers: Handlers = {
  'GET /api/session/second-step': ({ context }) => stateOf(context),
  'GET /api/admin/sign-in-rules': async ({ context }) => {
    const { version, codes } = await SignInRules.findOne({ transaction: context.tx, rejectOnEmpty: true });
    return { version: version ?? 1, codes };
  },
  'PATCH /api/admin/sign-in-rules': async ({ body, context }) => {
    if (body.codes !== 'by choice' && !context.outside.sealKey)
      throw conflict(
        'This server has no key to seal secrets with (EMPORIKON_SECRET), so nobody can set codes up.',
      );
    const rules = await SignInRules.findOne({ transaction: context.tx, lock: true, rejectOnEmpty: true });
    await context.write.update(rules, { codes: body.codes }, body.version);
    const eventId = await context.write.event(
      'change sign-in rules',
      `Changed who signs in with a code: ${body.codes}`,
      requireActor(context).id,
    );
    return { eventId };
  },
  'PUT /api/session/second-step/secret': early(async ({ body, perform, ...asked }) => {
    const user = await requirePassword(asked, body.password);
    const secret = newSecret();
    const sealed = sealPassword(asked.tools.outside.sealKey, secret);
    return perform(async (context) => {
      const [kept] = await context.sequelize.query<{ user_id: string }>(
        `INSERT INTO second_factors (user_id, sealed, made_at) VALUES ($id, $sealed, $now)
         ON CONFLICT (user_id) DO UPDATE SET sealed = excluded.sealed, made_at = excluded.made_at, last_step = 0
           WHERE second_factors.confirmed_at IS NULL RETURNING user_id`,
        {
          bind: { id: user.id, sealed, now: context.now() },
          type: QueryTypes.SELECT,
          transaction: context.tx,
        },
      );
      if (!kept)
        throw conflict('Signing in with a code is on already. Turn it off to change to another app.');
      return { secret, uri: uriOf(secret, user.email) };
    });
  }),
  'PUT /api/session/second-step': early(async ({ body, perform, ...asked }) => {
    const user = await requireUser(asked);
    const factor = await findFactor(asked.tools, user.id);
    if (!factor) throw conflict('Ask for a secret first, and put it into your authenticator app.');
    if (factor.confirmed_at) throw conflict('Signing in with a code is on already.');
    const proof = await requireProof(asked.tools, user, body.code, factor).catch(asField);
    const { codes, hashes } = await makeRecoveryCodes();
    const token = asked.request.cookies[SESSION_COOKIE];
    return perform(async (context) => {
      await useUp(context, user.id, proof);
      await context.sequelize.query(
        'UPDATE second_factors SET confirmed_at = $now WHERE user_id = $id AND confirmed_at IS NULL',
        { bind: { id: user.id, now: context.now() }, transaction: context.tx },
      );
      await keepRecoveryCodes(context, user.id, hashes);
      await endSessions(context, { userId: user.id, except: token ? hashToken(token) : null });
      const who = { userId: user.id, email: user.email, ...originOf(asked.request) };
      await recordSignIn(context, 'second step on', who, context.tx);
      return { codes };
    });
  }),
  'PUT /api/session/second-step/recovery-codes': early(async ({ body, perform, ...asked }) => {
    const user = await requirePassword(asked, body.password);
    const proof = await requireCode(asked, user, body.code);
    const { codes, hashes } = await makeRecoveryCodes();
    return perform(async (context) => {
      await useUp(context, user.id, proof);
      await keepRecoveryCodes(context, user.id, hashes);
      return { codes };
    });
  }),
  'DELETE /api/session/second-step': early(async ({ body, perform, ...asked }) => {
    const user = await requirePassword(asked, body.password);
    const proof = await requireCode(asked, user, body.code);
    return perform(async (context) => {
      if ((await stateOf(context)).isWanted)
        throw conflict('Your organisation asks you to sign in with a code. It stays on.');
      await useUp(context, user.id, proof);
      await removeFactor(context, user.id);
      const who = { userId: user.id, email: user.email, ...originOf(asked.request) };
      await recordSignIn(context, 'second step off', who, context.tx);
      return stateOf(context);
    });
  }),
  'DELETE /api/admin/users/:id/second-step': async ({ params, context, request }) => {
    const user = await User.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!user) throw notFound('There is no such account.');
    if (!(await removeFactor(context, user.id)))
      throw conflict(`${user.name} signs in without a code. Nothing was changed.`);
    await endSessions(context, { userId: user.id });
    const who = { userId: user.id, email: user.email, ...originOf(request) };
    await recordSignIn(context, 'second step off', who, context.tx);
    await context.write.event(
      'change user',
      `Turned off signing in with a code for ${user.name}`,
      requireActor(context).id,
    );
    return { removed: true as const };
  },
};
