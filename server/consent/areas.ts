import type { In, Parsed } from '@emporikon/contract';
import type { Area as AreaView } from '@emporikon/contract/consent';
import { requireActor, type Context } from '../commands/context';
import { Area } from '../db/models/consent';
import { conflict, notFound, stale } from '../http/problems';

const MOST_AREAS = 200;
type Done = { eventId: string | null };

export const offeredAreas = ({ tx }: Pick<Context, 'tx'>): Promise<Area[]> =>
  Area.findAll({ where: { retiredAt: null }, order: ['name'], transaction: tx });

export async function listAreas(context: Context): Promise<{ items: AreaView[] }> {
  const areas = await offeredAreas(context);
  return { items: areas.map(({ id, version, name, corners }) => ({ id, version, name, corners })) };
}

async function requireFreeName(context: Context, name: string, but: string | null): Promise<void> {
  const areas = await offeredAreas(context);
  if (areas.some((one) => one.id !== but && one.name.toLowerCase() === name.toLowerCase()))
    throw conflict('There is an area of this name already. Nothing was saved.', {
      fields: { name: 'is taken' },
    });
  if (!but && areas.length >= MOST_AREAS) throw conflict(`There can be ${MOST_AREAS} areas at most.`);
}

async function offeredArea({ tx }: Context, id: string): Promise<Area> {
  const area = await Area.findOne({ where: { id, retiredAt: null }, transaction: tx, lock: true });
  if (!area) throw notFound('There is no such area.');
  return area;
}

export async function addArea(
  context: Context,
  { name, corners }: Parsed<'POST /api/areas', 'body'>,
): Promise<Done & { id: string }> {
  await requireFreeName(context, name, null);
  const { id } = await context.write.insert(Area, { id: context.newId(), name, corners });
  return {
    id,
    eventId: await context.write.event('add area', `Added the area ${name}`, requireActor(context).id),
  };
}

export async function changeArea(
  context: Context,
  { id }: In<'PATCH /api/areas/:id', 'params'>,
  { version, ...changes }: Parsed<'PATCH /api/areas/:id', 'body'>,
): Promise<Done> {
  const area = await offeredArea(context, id);
  if (area.version !== version) throw stale({ version: area.version, name: area.name });
  if (changes.name) await requireFreeName(context, changes.name, id);
  await context.write.update(area, changes);
  return {
    eventId: await context.write.event(
      'change area',
      `Changed the area ${area.name}`,
      requireActor(context).id,
    ),
  };
}

export async function retireArea(
  context: Context,
  { id }: In<'DELETE /api/areas/:id', 'params'>,
): Promise<Done> {
  const area = await offeredArea(context, id);
  await context.write.update(area, { retiredAt: context.now() });
  return {
    eventId: await context.write.event(
      'retire area',
      `Retired the area ${area.name}`,
      requireActor(context).id,
    ),
  };
}
