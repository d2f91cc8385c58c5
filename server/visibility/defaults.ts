import type { SightDefault } from '@emporikon/contract/visibility';
import { requireActor, type Context } from '../commands/context';
import { VisibilityDefault } from '../db/models/visibility';
import { invalid } from '../http/problems';
import { kindOfTable, RECORDS } from './records';
import { visibleTo } from './sight';

const asView = (row: VisibilityDefault): SightDefault => ({
  kind: kindOfTable(row.kind),
  ...(row.source ? { source: row.source } : {}),
  visibility: row.visibility,
  ...(row.visibility === 'team' ? { teamId: row.visibleTo[0] } : {}),
  ...(row.visibility === 'named' ? { peopleIds: row.visibleTo } : {}),
});

export async function listDefaults(context: Context): Promise<SightDefault[]> {
  const rows = await VisibilityDefault.findAll({ order: ['kind', 'source'], transaction: context.tx });
  return rows.map(asView);
}

/** @throws 422 for a source of anything but leads, or two defaults for the same @returns the event's id */
export async function replaceDefaults(
  context: Context,
  items: readonly SightDefault[],
): Promise<string | null> {
  const keys = items.map(({ kind, source }) => `${kind}/${source ?? ''}`);
  if (new Set(keys).size < keys.length)
    throw invalid('Nothing was saved: two defaults are for the same records.');
  if (items.some(({ kind, source }) => source && kind !== 'leads'))
    throw invalid('Nothing was saved: only leads have a source.');
  for (const row of await VisibilityDefault.findAll({ transaction: context.tx, lock: true }))
    await context.write.remove(row);
  for (const item of items.filter(({ visibility }) => visibility !== 'everybody'))
    await context.write.insert(VisibilityDefault, {
      id: context.newId(),
      kind: RECORDS[item.kind].table,
      source: item.source ?? null,
      visibility: item.visibility,
      visibleTo: await visibleTo(context, item),
    });
  return context.write.event(
    'change visibility defaults',
    'Changed who may see new records',
    requireActor(context).id,
  );
}
