import type { HouseUser } from '@emporikon/contract/session';
import { DateTime } from 'luxon';
import { QueryTypes, Transaction } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { AccessToken, RoleRow, User, type UserRole } from '../db/models/users';
import { early, type Handlers } from '../http/mount';
import { conflict, invalid, notFound } from '../http/problems';
import { endSessions } from './end';
import { ensureTeam } from '../visibility/teams';
import { sendLink } from './passwordLink';
import { hashPassword, newToken } from './secrets';

/** When each of some colleagues was here last. */
async function lastSeen(context: Context, ids: readonly string[]): Promise<Map<string, Date>> {
  const rows = await context.sequelize.query<{ id: string; at: Date }>(
    'SELECT user_id AS id, max(last_seen_at) AS at FROM sessions WHERE user_id = ANY ($ids::uuid[]) GROUP BY 1',
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(rows.map(({ id, at }) => [id, at]));
}

/** Who signs in with a code as well. */
async function withSecondStep(context: Context): Promise<Set<string>> {
  const rows = await context.sequelize.query<{ id: string }>(
    'SELECT user_id AS id FROM second_factors WHERE confirmed_at IS NOT NULL',
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Set(rows.map(({ id }) => id));
}

async function asViews(context: Context, users: readonly User[]): Promise<HouseUser[]> {
  const seen = await lastSeen(
    context,
    users.map(({ id }) => id),
  );
  const coded = await withSecondStep(context);
  return users.map(({ id, version, name, email, role, roleId, team, active }) => ({
    id,
    version: version ?? 1,
    name,
    email,
    role,
    roleId: roleId ?? null,
    team: team ?? '',
    active,
    lastSeenAt: seen.get(id)?.toISOString() ?? null,
    hasSecondStep: coded.has(id),
  }));
}

export async function asHouseUser(context: Context, user: User): Promise<HouseUser> {
  const [view] = await asViews(context, [user]);
  if (!view) throw notFound('There is no such colleague.');
  return view;
}

/** Switches an account off: sessions and tokens end with it. @throws 409 for the only admin, and for a stale version */
export async function switchOff(context: Context, user: User, version: number): Promise<void> {
  if (user.role === 'admin' && user.active) await keepAnAdmin(context, user);
  await context.write.update(user, { active: false }, version);
  await endAccess(context, user.id);
}

async function endAccess(context: Context, userId: string): Promise<void> {
  await endSessions(context, { userId });
  await AccessToken.update(
    { revokedAt: context.now() },
    { where: { userId, revokedAt: null }, transaction: context.tx },
  );
}

/** Somebody must be left who can let others in. */
async function keepAnAdmin(context: Context, user: User): Promise<void> {
  const [others] = await context.sequelize.query<{ n: number }>(
    "SELECT count(*)::int AS n FROM (SELECT id FROM users WHERE role = 'admin' AND active AND id <> $id FOR UPDATE) a",
    { bind: { id: user.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!others?.n) throw conflict('This is the only admin. Make somebody else an admin first.');
}

/**
 * A role as it is kept: one that is always there, or one of the organisation's own with what that is based on.
 * @throws 422 where there is no such role
 */
async function rolesOf(
  context: Context,
  role: UserRole,
  roleId: string | null | undefined,
): Promise<Pick<User, 'role' | 'roleId'>> {
  if (!roleId) return { role, roleId: null };
  const own = await RoleRow.findByPk(roleId, { transaction: context.tx, lock: Transaction.LOCK.SHARE });
  if (!own)
    throw invalid('There is no such role. Nothing was saved.', { fields: { roleId: 'does not exist' } });
  return { role: own.basedOn, roleId: own.id };
}

export const userHandlers: Handlers = {
  'GET /api/users': async ({ context }) => {
    const users = await User.findAll({ where: { active: true }, order: ['name'], transaction: context.tx });
    return { items: users.map(({ id, name, role, team }) => ({ id, name, role, team: team ?? '' })) };
  },
  'GET /api/admin/users': async ({ context }) => {
    const users = await User.findAll({ order: [['active', 'DESC'], 'name'], transaction: context.tx });
    return { items: await asViews(context, users) };
  },
  'POST /api/admin/users': early(async ({ body, perform }) => {
    if (!DateTime.now().setZone(body.timeZone).isValid)
      throw invalid('There is no such time zone.', { fields: { timeZone: 'is not an IANA time zone' } });
    const { password, roleId, ...given } = body;
    // Without a password nobody can sign in until they chose one by the link.
    const passwordHash = await hashPassword(password ?? newToken());
    return perform(async (context) => {
      if (await User.findOne({ where: { email: body.email }, transaction: context.tx }))
        throw conflict('There is an account with this address already.', { fields: { email: 'is taken' } });
      await ensureTeam(context, given.team);
      const user = await context.write.insert(User, {
        id: context.newId(),
        ...given,
        ...(await rolesOf(context, given.role, roleId)),
        passwordHash,
        active: true,
        createdAt: context.now(),
      });
      if (!password) await sendLink(context, user, 'invitation');
      await context.write.event('add user', `Added ${user.name}`, requireActor(context).id);
      return asHouseUser(context, user);
    });
  }),
  'PATCH /api/admin/users/:id': early(async ({ params, body, perform }) => {
    const { version, password, role, roleId, ...rest } = body;
    const passwordHash = password ? await hashPassword(password) : null;
    return perform(async (context) => {
      const user = await User.findByPk(params.id, { transaction: context.tx, lock: true });
      if (!user) throw notFound('There is no such account.');
      const patch = { ...rest, ...(role || roleId ? await rolesOf(context, role ?? user.role, roleId) : {}) };
      const losesRight = patch.active === false || (patch.role && patch.role !== 'admin');
      if (losesRight && user.role === 'admin' && user.active) await keepAnAdmin(context, user);
      await ensureTeam(context, patch.team);
      await context.write.update(user, { ...patch, ...(passwordHash ? { passwordHash } : {}) }, version);
      if (!user.active) await endAccess(context, user.id);
      else if (passwordHash || losesRight) await endSessions(context, { userId: user.id });
      await context.write.event(
        'change user',
        `Changed the account of ${user.name}`,
        requireActor(context).id,
      );
      return asHouseUser(context, user);
    });
  }),
};
