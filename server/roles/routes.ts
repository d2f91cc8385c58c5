import type { OwnRole } from '@emporikon/contract/roles';
import { completeRights } from '@emporikon/core/rights/rights';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { RoleRow, User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';

async function findRole(context: Context, id: string): Promise<RoleRow> {
  const role = await RoleRow.findByPk(id, { transaction: context.tx, lock: true });
  if (!role) throw notFound('There is no such role.');
  return role;
}

const BUILT_IN = new Set(['rep', 'manager', 'admin']);

/** @throws 409 where there is a role of the name */
async function requireFreeName(context: Context, name: string, id: string | null = null): Promise<void> {
  const twin = await RoleRow.findOne({
    where: { name: { [Op.iLike]: name.replace(/[\\%_]/g, '\\$&') }, ...(id ? { id: { [Op.ne]: id } } : {}) },
    transaction: context.tx,
  });
  if (twin || BUILT_IN.has(name.toLowerCase()))
    throw conflict(`There is a role called ${twin?.name ?? name.toLowerCase()} already.`, {
      fields: { name: 'is taken' },
    });
}

/** Everybody with a role, whether their account is on or off. */
const holdersOf = (context: Context, roleId: string): Promise<User[]> =>
  User.findAll({ where: { roleId }, order: ['name'], transaction: context.tx });

export const roleHandlers: Handlers = {
  'GET /api/roles': async ({ context }) => {
    const roles = await RoleRow.findAll({ order: ['name'], limit: 200, transaction: context.tx });
    const items: OwnRole[] = [];
    for (const { id, version, name, basedOn, rights } of roles)
      items.push({
        id,
        version: version ?? 1,
        name,
        basedOn,
        rights: completeRights(rights),
        users: (await holdersOf(context, id)).map((user) => user.name),
      });
    return { items };
  },
  'POST /api/roles': async ({ body, context }) => {
    await requireFreeName(context, body.name);
    const role = await context.write.insert(RoleRow, {
      id: context.newId(),
      name: body.name,
      basedOn: body.basedOn,
      rights: completeRights(body.rights),
    });
    const eventId = await context.write.event(
      'add role',
      `Added the role ${role.name}`,
      requireActor(context).id,
    );
    return { id: role.id, eventId };
  },
  'PATCH /api/roles/:id': async ({ params, body, context }) => {
    const { version, name, basedOn, rights } = body;
    const role = await findRole(context, params.id);
    if (name) await requireFreeName(context, name, role.id);
    await context.write.update(
      role,
      {
        ...(name ? { name } : {}),
        ...(basedOn ? { basedOn } : {}),
        ...(rights ? { rights: completeRights(rights) } : {}),
      },
      version,
    );
    for (const user of await holdersOf(context, role.id))
      await context.write.update(user, { role: role.basedOn });
    const eventId = await context.write.event(
      'change role',
      `Changed the role ${role.name}`,
      requireActor(context).id,
    );
    return { eventId };
  },
  'DELETE /api/roles/:id': async ({ params, context }) => {
    const role = await findRole(context, params.id);
    const holders = await holdersOf(context, role.id);
    if (holders.length)
      throw conflict(
        `${holders.map((user) => user.name).join(', ')} ${holders.length === 1 ? 'has' : 'have'} this role. Give them another one first; nothing was removed.`,
      );
    await context.write.remove(role);
    const eventId = await context.write.event(
      'remove role',
      `Removed the role ${role.name}`,
      requireActor(context).id,
    );
    return { eventId };
  },
};
