import type { BulkPreview } from '@emporikon/contract/bulk';
import type { BulkKind, Step, Verdict } from '@emporikon/core/bulk/types';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { updateRows, type RowPatch } from '../commands/many';
import { pastSight } from '../commands/sight';
import { STORED, type Row } from './records';

/** Of so many records it is worked out who would no longer see them. */
export const MOST_LOOKED_AT = 2000;
/** Steps by which somebody may come to see a record no longer. */
export const changesSight = (steps: readonly Step[]): boolean =>
  steps.some((step) => step.do === 'visible' || step.do === 'owner');

const DECIDES = ['ownerId', 'visibility', 'visibleTo'];
const only = (row: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(row).filter(([key]) => DECIDES.includes(key)));

/** What would be written to the columns that decide who sees each record. */
export const sightPatches = (
  kind: BulkKind,
  rows: readonly Row[],
  verdicts: readonly Verdict[],
): RowPatch[] =>
  rows.flatMap((row, at) => {
    const verdict = verdicts[at];
    const patch = verdict?.will === 'change' ? only(verdict.patch) : {};
    if (!Object.keys(patch).length) return [];
    return {
      id: row.id,
      version: row.version,
      before: only(row),
      patch,
      told: { name: row[STORED[kind].name] },
    };
  });

interface Seen {
  id: string;
  seen_by: number | null;
}

const LOST = `SELECT u.id, u.name, sum(p.n)::int AS count FROM users u
  CROSS JOIN jsonb_to_recordset($pairs::jsonb) AS p (before integer, after integer, n integer)
  WHERE u.active AND (p.before IS NULL OR EXISTS (SELECT 1 FROM audience_members a WHERE a.audience_id = p.before AND a.user_id = u.id))
    AND p.after IS NOT NULL AND NOT EXISTS (SELECT 1 FROM audience_members a WHERE a.audience_id = p.after AND a.user_id = u.id)
  GROUP BY u.id, u.name ORDER BY count DESC, u.name`;

/**
 * Which colleagues would see fewer of some records. The database decides that with everything a record belongs to, so the
 * change is made, looked at, and taken back to a savepoint; nothing of it is kept.
 */
export async function whoLosesSight(
  context: Context,
  kind: BulkKind,
  patches: readonly RowPatch[],
): Promise<BulkPreview['unseen']> {
  if (!patches.length) return [];
  const { sequelize, tx } = context;
  const { model } = STORED[kind];
  const run = (sql: string): Promise<unknown> => sequelize.query(sql, { transaction: tx });
  const ids = patches.map(({ id }) => id);
  const seen = async (): Promise<Map<string, number | null>> => {
    const rows = await sequelize.query<Seen>(
      `SELECT id, seen_by FROM ${model.tableName} WHERE id = ANY ($ids::uuid[])`,
      {
        bind: { ids },
        type: QueryTypes.SELECT,
        transaction: tx,
      },
    );
    return new Map(rows.map((row) => [row.id, row.seen_by]));
  };
  return pastSight(context, async () => {
    const before = await seen();
    await run('SAVEPOINT who_sees');
    await updateRows(context, tx, model, patches, context.now());
    await run('SET CONSTRAINTS sight_settle_pending IMMEDIATE');
    const after = await seen();
    const pairs = new Map<string, { before: number | null; after: number | null; n: number }>();
    for (const id of ids) {
      const pair = { before: before.get(id) ?? null, after: after.get(id) ?? null };
      const key = `${pair.before}/${pair.after}`;
      pairs.set(key, { ...pair, n: (pairs.get(key)?.n ?? 0) + 1 });
    }
    const lost = await sequelize.query<BulkPreview['unseen'][number]>(LOST, {
      bind: { pairs: JSON.stringify([...pairs.values()]) },
      type: QueryTypes.SELECT,
      transaction: tx,
    });
    await run('ROLLBACK TO SAVEPOINT who_sees');
    return lost;
  });
}
