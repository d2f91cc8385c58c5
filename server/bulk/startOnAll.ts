import type { BulkKind, Step } from '@emporikon/core/bulk/types';
import { QueryTypes } from 'sequelize';
import { prepareBulk } from './prepare';
import { startBulk } from './routes';
import type { Context } from '../commands/context';

export interface Started {
  id: string;
  kind: BulkKind;
  total: number;
}

/**
 * Begins a change of every record that some SQL gives the ids of, in the background and with its undo. Called where the
 * actor's sight is lifted: a word of the organisation's is changed on records too that they cannot see.
 * @param bind the values of the SQL
 */
export async function startOnAll(
  context: Context,
  kind: BulkKind,
  steps: readonly Step[],
  sql: string,
  bind: Record<string, unknown>,
): Promise<Started[]> {
  const rows = await context.sequelize.query<{ id: string }>(sql, {
    bind,
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!rows.length) return [];
  const ids = rows.map(({ id }) => id);
  const { change } = await prepareBulk(context, { kind, on: { ids }, steps, pastSight: true });
  await startBulk(context, change.id);
  return [{ id: change.id, kind, total: change.total }];
}
