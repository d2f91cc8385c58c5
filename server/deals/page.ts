import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { decodeCursor, encodeCursor } from '../http/paging';
import { sortedIds, type SortKey } from '../http/sorting';
import { dealConditions, type DealFilter } from './filter';

/**
 * Ids of deals in some stages, newest in their stage first. Each stage gives its first ones by its own index and those
 * are put in order, so that a page costs the same whatever the number of deals.
 * @param further a condition over `d`, fixed SQL with the values it needs
 */
export async function pageOfDeals(
  context: Context,
  stageIds: readonly string[],
  filter: DealFilter,
  { cursor, limit }: { cursor?: string | undefined; limit: number },
  further: { sql: string; replacements: Record<string, unknown> } = { sql: 'true', replacements: {} },
): Promise<{ ids: string[]; next: string | null }> {
  const [since = '', last = ''] = decodeCursor(cursor, 2);
  if (!stageIds.length) return { ids: [], next: null };
  const { sql, replacements } = dealConditions(filter);
  const after = last ? 'AND (d.stage_since, d.id) < (:since::timestamptz, :last::uuid)' : '';
  const rows = await context.sequelize.query<{ id: string; since: string }>(
    `SELECT page.id, page.stage_since::text AS since
       FROM unnest(ARRAY[:stageIds]::uuid[]) wanted (id) JOIN stages s ON s.id = wanted.id
       CROSS JOIN LATERAL (
         SELECT d.id, d.stage_since FROM deals d WHERE d.stage_id = s.id AND ${sql} AND ${further.sql} ${after}
          ORDER BY d.stage_since DESC, d.id DESC LIMIT :most) page
      ORDER BY page.stage_since DESC, page.id DESC LIMIT :most`,
    {
      replacements: { ...replacements, ...further.replacements, stageIds, since, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const page = rows.slice(0, limit);
  const end = page.at(-1);
  return {
    ids: page.map(({ id }) => id),
    next: rows.length > limit && end ? encodeCursor([end.since, end.id]) : null,
  };
}

const SORTS = {
  since: { sql: 'd.stage_since', type: 'timestamptz', isRequired: true },
  title: { sql: 'd.title', type: 'text', isRequired: true },
  amount: { sql: 'd.amount_minor', type: 'bigint' },
  expectedClose: { sql: 'd.expected_close', type: 'date' },
} as const satisfies Record<string, SortKey>;

export type DealSort = keyof typeof SORTS;

export const NATURAL_DIRECTION: Record<DealSort, 'asc' | 'desc'> = {
  since: 'desc',
  title: 'asc',
  amount: 'desc',
  expectedClose: 'asc',
};

/** Ids of deals in some stages by one of their columns; amounts as they stand, whatever their currency. */
export async function sortedDeals(
  context: Context,
  stageIds: readonly string[],
  filter: DealFilter,
  {
    sort,
    ...paging
  }: { sort: DealSort; direction: 'asc' | 'desc'; cursor?: string | undefined; limit: number },
): Promise<{ ids: string[]; next: string | null }> {
  if (!stageIds.length) return { ids: [], next: null };
  const { sql, replacements } = dealConditions(filter);
  return sortedIds(
    context,
    {
      each: 'unnest(ARRAY[:stageIds]::uuid[]) each (id)',
      from: 'deals d JOIN stages s ON s.id = d.stage_id',
      id: 'd.id',
      where: `d.stage_id = each.id AND ${sql}`,
      replacements: { ...replacements, stageIds },
    },
    { ...paging, sort, key: SORTS[sort] },
  );
}
