import { QueryTypes, type Sequelize } from 'sequelize';
import { requireActor } from '../commands/context';
import { AllowedHost } from '../db/models/hosts';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';

/** The servers that admins let people reach although they are on private addresses, `host:port` each. */
export async function loadAllowedHosts(sequelize: Sequelize): Promise<string[]> {
  const rows = await sequelize.query<{ host: string }>('SELECT host FROM allowed_hosts', {
    type: QueryTypes.SELECT,
  });
  return rows.map(({ host }) => host);
}

export const hostHandlers: Handlers = {
  'GET /api/admin/hosts': async ({ context }) => ({
    items: (await AllowedHost.findAll({ order: ['host'], transaction: context.tx })).map(({ id, host }) => ({
      id,
      host,
    })),
    always: [...context.outside.door.allowed],
  }),
  'POST /api/admin/hosts': async ({ body, context }) => {
    const known = await AllowedHost.findOne({ where: { host: body.host }, transaction: context.tx });
    if (known || context.outside.door.allowed.includes(body.host))
      throw conflict(`${body.host} is allowed already.`, { fields: { host: 'is allowed already' } });
    const { id, host } = await context.write.insert(AllowedHost, { id: context.newId(), host: body.host });
    const eventId = await context.write.event('allow host', `Allowed ${host}`, requireActor(context).id);
    return { eventId, id };
  },
  'DELETE /api/admin/hosts/:id': async ({ params, context }) => {
    const known = await AllowedHost.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!known) throw notFound('There is no such server in the list.');
    await context.write.remove(known);
    const eventId = await context.write.event(
      'disallow host',
      `No longer allowed ${known.host}`,
      requireActor(context).id,
    );
    return { eventId };
  },
};
