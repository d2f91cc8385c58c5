import type { View } from '@emporikon/contract/queries';
import { checkQuery } from '@emporikon/core/query/check';
import type { Schema } from '@emporikon/core/query/sql/scope';
import { rightOn } from '@emporikon/core/rights/kinds';
import { layoutProblem, type Layout } from '@emporikon/core/query/layout';
import type { Query, RecordKind } from '@emporikon/core/query/types';
import { QueryTypes } from 'sequelize';
import { requireActor, type Actor, type Context } from '../commands/context';
import { requireRight } from '../commands/rights';
import { User } from '../db/models/users';
import { ViewRow } from '../db/models/views';
import { conflict, forbidden, invalid, notFound } from '../http/problems';
import { loadSchema } from './schema';

/**
 * What can be asked here, once a query was found to be good.
 * @throws 403 where whoever asks may not see records of the kind, 422 with what is wrong, by the part of the query
 */
export async function schemaFor(context: Context, query: Query): Promise<Schema> {
  requireRight(context, rightOn(query.kind, 'see'));
  const schema = await loadSchema(context);
  const issues = checkQuery(query, schema.registry);
  if (issues.length)
    throw invalid(issues[0]?.message ?? 'This cannot be asked.', {
      fields: Object.fromEntries(issues.map(({ path, message }) => [`query.${path}`, message])),
    });
  return schema;
}

/** Whose it is may change it; what belongs to nobody, or is shared, also those who manage. */
const mayChange = (actor: Actor, { ownerId, shared }: Pick<ViewRow, 'ownerId' | 'shared'>): boolean =>
  ownerId === actor.id || (actor.role !== 'rep' && shared !== 'me');

async function asView(context: Context, row: ViewRow): Promise<View> {
  const owner = row.ownerId ? await User.findByPk(row.ownerId, { transaction: context.tx }) : null;
  const { groups = [], order = [], totals = [], columns = [], ...query } = row.query;
  const lists = { groups: [...groups], order: [...order], totals: [...totals], columns: [...columns] };
  return {
    id: row.id,
    version: row.version ?? 1,
    kind: row.kind,
    name: row.name,
    query: { ...query, ...lists } as View['query'],
    layout: row.layout ?? { as: 'table' },
    shared: row.shared,
    owner: owner?.name ?? null,
    mayChange: mayChange(requireActor(context), row),
    updatedAt: row.updatedAt.toISOString(),
  };
}

/** @throws 404 */
async function findView(context: Context, id: string, lock = false): Promise<ViewRow> {
  const row = await ViewRow.findByPk(id, { transaction: context.tx, lock });
  if (!row) throw notFound('There is no such view, or it is not shared with you.');
  return row;
}
export const viewOf = async (context: Context, id: string): Promise<View> =>
  asView(context, await findView(context, id));

export async function listViews(
  context: Context,
  kind: RecordKind,
): Promise<{ items: View[]; last: string | null }> {
  const rows = await ViewRow.findAll({
    where: { kind },
    order: ['position', 'name', 'id'],
    limit: 500,
    transaction: context.tx,
  });
  const [last] = await context.sequelize.query<{ id: string }>(
    'SELECT view_id AS id FROM last_views l JOIN views v ON v.id = l.view_id WHERE l.user_id = :me AND l.kind = :kind',
    {
      replacements: { me: requireActor(context).id, kind },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const items: View[] = [];
  for (const row of rows) items.push(await asView(context, row));
  return { items, last: last?.id ?? null };
}

/** @throws 422 for a query that cannot be asked, or a layout that its records cannot have */
async function checkLayout(context: Context, query: Query, layout: Layout): Promise<void> {
  const { registry } = await schemaFor(context, query);
  const problem = layoutProblem(layout, registry[query.kind]);
  if (problem) throw invalid(problem, { fields: { layout: problem } });
}

interface ViewInput {
  name: string;
  query: Query;
  layout: Layout;
  shared: ViewRow['shared'];
}
type Shared = Pick<ViewRow, 'shared' | 'team'>;

/** @throws 422 where somebody without a team shares with it */
async function sharedWith(context: Context, shared: ViewRow['shared']): Promise<Shared> {
  if (shared !== 'team') return { shared, team: null };
  const me = await User.findByPk(requireActor(context).id, { transaction: context.tx });
  if (!me?.team)
    throw invalid('You are in no team. Share the view with everybody, or keep it for yourself.', {
      fields: { shared: 'you are in no team' },
    });
  return { shared, team: me.team };
}

async function requireFreeName(
  context: Context,
  kind: RecordKind,
  name: string,
  except?: string,
): Promise<void> {
  const [taken] = await context.sequelize.query<{ id: string }>(
    'SELECT id FROM views WHERE kind = :kind AND lower(name) = lower(:name) AND owner_id = :me AND id IS DISTINCT FROM CAST(:except AS uuid)',
    {
      replacements: { kind, name, me: requireActor(context).id, except: except ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  if (taken)
    throw conflict('You have a view of this name already. Nothing was saved.', {
      fields: { name: 'is taken' },
    });
}

/** @throws 409 for a name of one's own that is taken, 422 for a query that cannot be asked */
export async function saveView(
  context: Context,
  { name, query, layout, shared }: ViewInput,
): Promise<{ eventId: string | null; view: View }> {
  const actor = requireActor(context);
  await checkLayout(context, query, layout);
  await requireFreeName(context, query.kind, name);
  const row = await context.write.insert(ViewRow, {
    id: context.newId(),
    kind: query.kind,
    name,
    query,
    layout,
    ...(await sharedWith(context, shared)),
    ownerId: actor.id,
    createdAt: context.now(),
    updatedAt: context.now(),
  });
  const eventId = await context.write.event('save view', `Saved the view “${name}”`, actor.id);
  return { eventId, view: await asView(context, row) };
}

/** @throws 403 for somebody else's, 404, 409 where it was changed meanwhile */
export async function changeView(
  context: Context,
  id: string,
  { version, ...patch }: Partial<ViewInput> & { version: number },
): Promise<{ eventId: string | null; view: View }> {
  const actor = requireActor(context);
  const row = await findView(context, id, true);
  if (!mayChange(actor, row))
    throw forbidden('Only its owner may change this view. Save it under another name instead.');
  if (patch.query && patch.query.kind !== row.kind)
    throw invalid('A view stays of its kind.', { fields: { query: 'is of another kind' } });
  if (patch.query ?? patch.layout)
    await checkLayout(context, patch.query ?? row.query, patch.layout ?? row.layout ?? { as: 'table' });
  if (patch.name && row.ownerId === actor.id) await requireFreeName(context, row.kind, patch.name, id);
  const { shared, ...rest } = patch;
  if (shared === 'me' && row.ownerId === null)
    throw invalid('This view came with the program and is everybody’s.', {
      fields: { shared: 'stays everybody’s' },
    });
  const changed = await context.write.update(
    row,
    { ...rest, ...(shared ? await sharedWith(context, shared) : {}), updatedAt: context.now() },
    version,
  );
  const eventId = await context.write.event('change view', `Changed the view “${changed.name}”`, actor.id);
  return { eventId, view: await asView(context, changed) };
}

/** @throws 403 for somebody else's, 404 */
export async function deleteView(context: Context, id: string): Promise<{ eventId: string | null }> {
  const actor = requireActor(context);
  const row = await findView(context, id, true);
  if (!mayChange(actor, row)) throw forbidden('Only its owner may delete this view.');
  await context.sequelize.query('DELETE FROM last_views WHERE view_id = :id', {
    replacements: { id },
    transaction: context.tx,
  });
  await context.write.remove(row);
  return { eventId: await context.write.event('delete view', `Deleted the view “${row.name}”`, actor.id) };
}

/** Which view somebody used last; it tells nobody anything, and is no event. */
export async function rememberView(context: Context, id: string): Promise<void> {
  const row = await findView(context, id);
  await context.sequelize.query(
    `INSERT INTO last_views (user_id, kind, view_id) VALUES (:me, :kind, :id)
     ON CONFLICT (user_id, kind) DO UPDATE SET view_id = EXCLUDED.view_id`,
    { replacements: { me: requireActor(context).id, kind: row.kind, id }, transaction: context.tx },
  );
}
