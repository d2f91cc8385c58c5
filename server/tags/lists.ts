import { QueryTypes } from 'sequelize';
import { startOnAll, type Started } from '../bulk/startOnAll';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { List } from '../db/models/fields';
import { Form } from '../db/models/forms';
import { conflict, invalid, notFound } from '../http/problems';

async function requireList(context: Context, id: string): Promise<List> {
  const list = await List.findByPk(id, { transaction: context.tx, lock: true });
  if (!list) throw notFound('There is no such list.');
  return list;
}

/** @throws 409 where another list has the name */
export async function renameList(
  context: Context,
  id: string,
  name: string,
): Promise<{ list: { id: string; name: string }; eventId: string | null }> {
  const list = await requireList(context, id);
  const was = list.name;
  const other = await List.findOne({ where: { name }, transaction: context.tx });
  if (other && other.id !== id)
    throw conflict(`There is a list “${name}” already. Move the people of one to the other instead.`);
  await context.write.update(list, { name });
  const eventId = await context.write.event(
    'rename list',
    `Renamed the list ${was} to ${name}`,
    requireActor(context).id,
  );
  return { list: { id, name }, eventId };
}

/** Moves everybody on a list to another, or off it; forms that add to it add to the other. */
export async function moveList(
  context: Context,
  id: string,
  toId: string | null,
): Promise<{ changes: Started[]; also: string[]; eventId: string | null }> {
  const list = await requireList(context, id);
  if (toId === id) throw invalid('Choose another list.', { fields: { toId: 'is the same list' } });
  const to = toId ? await requireList(context, toId) : null;
  const changes = await pastSight(context, () =>
    startOnAll(
      context,
      'person',
      [...(toId ? [{ do: 'list' as const, to: toId }] : []), { do: 'unlist', to: id }],
      'SELECT person_id AS id FROM list_members WHERE list_id = $id',
      { id },
    ),
  );
  const forms = await Form.findAll({ where: { listId: id }, transaction: context.tx });
  for (const form of forms) await context.write.update(form, { listId: toId });
  const eventId = await context.write.event(
    'move list',
    to ? `Moved the list ${list.name} to ${to.name}` : `Emptied the list ${list.name}`,
    requireActor(context).id,
  );
  return { changes, eventId, also: forms.map(({ name }) => `the form “${name}”`) };
}

/** @throws 409 while somebody is on it, seen or not, or a form adds to it */
export async function removeList(context: Context, id: string): Promise<string | null> {
  const list = await requireList(context, id);
  const [used] = await pastSight(context, () =>
    context.sequelize.query<{ people: boolean; form: string | null }>(
      `SELECT EXISTS (SELECT 1 FROM list_members WHERE list_id = $id) AS people,
              (SELECT name FROM forms WHERE list_id = $id LIMIT 1) AS form`,
      { bind: { id }, type: QueryTypes.SELECT, transaction: context.tx },
    ),
  );
  if (used?.people) throw conflict('There are people on this list. Move them, or take them off it, first.');
  if (used?.form) throw conflict(`The form “${used.form}” adds to this list. Change the form first.`);
  await context.write.remove(list);
  return context.write.event('remove list', `Removed the list ${list.name}`, requireActor(context).id);
}
