import type { TaskKind as KindView } from '@emporikon/contract/tasks';
import { Op, col, fn, where } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { TaskKind, type Task } from '../db/models/tasks';
import { conflict, notFound } from '../http/problems';

export async function listKinds(context: Context): Promise<KindView[]> {
  const kinds = await TaskKind.findAll({
    where: { active: true },
    order: ['name'],
    transaction: context.tx,
  });
  return kinds.map(({ id, name, actsAs }) => ({ id, name, actsAs }));
}

/** Adds a kind, or offers one of this name again. @throws 409 where there is one */
export async function addKind(
  context: Context,
  { name, actsAs }: { name: string; actsAs: Task['kind'] },
): Promise<{ id: string; eventId: string | null }> {
  const known = await TaskKind.findOne({
    where: { [Op.and]: [where(fn('lower', col('name')), name.toLowerCase())] },
    transaction: context.tx,
    lock: true,
  });
  if (known?.active)
    throw conflict('There is a kind of this name already.', { fields: { name: 'is taken' } });
  const kind = known
    ? await context.write.update(known, { active: true, actsAs })
    : await context.write.insert(TaskKind, { id: context.newId(), name, actsAs });
  const eventId = await context.write.event(
    'add task kind',
    `Added the kind ${name}`,
    requireActor(context).id,
  );
  return { id: kind.id, eventId };
}

export async function retireKind(context: Context, id: string): Promise<string | null> {
  const kind = await TaskKind.findByPk(id, { transaction: context.tx, lock: true });
  if (!kind?.active) throw notFound('There is no such kind of task.');
  await context.write.update(kind, { active: false });
  return context.write.event('retire task kind', `Retired the kind ${kind.name}`, requireActor(context).id);
}
