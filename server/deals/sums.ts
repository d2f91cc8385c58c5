import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { dealConditions, type DealFilter } from './filter';

/** How many deals a stage has in one currency, their sum in minor units, and that times their chance in per cent. */
export interface StageSum {
  stageId: string;
  currency: string;
  deals: number;
  plain: number;
  weighted: number;
}

interface Row {
  stage_id: string;
  currency: string;
  deals: string;
  plain: string;
  weighted: string;
}

const asSum = (row: Row): StageSum => ({
  stageId: row.stage_id,
  currency: row.currency,
  deals: Number(row.deals),
  plain: Number(row.plain),
  weighted: Number(row.weighted),
});

const ask = async (
  context: Context,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<StageSum[]> =>
  (
    await context.sequelize.query<Row>(sql, {
      replacements,
      type: QueryTypes.SELECT,
      transaction: context.tx,
    })
  ).map(asSum);

/** What of a filter the kept sums can answer. */
const KEPT = new Set<keyof DealFilter>(['pipeline', 'owner', 'team']);

/**
 * Counts and sums of the deals in open stages, by stage and currency: from those that are kept, or added up where a filter
 * goes by what they do not hold.
 */
export function openSums(
  context: Context,
  stageIds: readonly string[],
  filter: DealFilter,
): Promise<StageSum[]> {
  if (!stageIds.length) return Promise.resolve([]);
  const { sql, replacements } = dealConditions(filter);
  const given = { ...replacements, stageIds };
  const isKept = (Object.keys(filter) as (keyof DealFilter)[]).every(
    (key) => filter[key] === undefined || KEPT.has(key),
  );
  return ask(
    context,
    isKept
      ? `SELECT d.stage_id, d.currency, sum(d.deals) AS deals, sum(d.plain) AS plain, sum(d.weighted) AS weighted
           FROM deal_sums d JOIN stages s ON s.id = d.stage_id WHERE d.stage_id IN (:stageIds) AND ${sql}
          GROUP BY 1, 2 HAVING sum(d.deals) > 0 ORDER BY 2`
      : addUp(`d.stage_id IN (:stageIds) AND ${sql}`),
    given,
  );
}

/** The same of those that were won since a moment. */
export function wonSums(
  context: Context,
  stageIds: readonly string[],
  filter: DealFilter,
  since: string,
): Promise<StageSum[]> {
  if (!stageIds.length) return Promise.resolve([]);
  const { sql, replacements } = dealConditions(filter);
  return ask(
    context,
    addUp(`d.stage_id IN (:stageIds) AND ${sql} AND d.closed_at >= :monthStart::timestamptz`),
    {
      ...replacements,
      stageIds,
      monthStart: since,
    },
  );
}

const addUp = (where: string): string =>
  `SELECT d.stage_id, d.currency, count(*) AS deals, sum(coalesce(d.amount_minor, 0)) AS plain, sum(coalesce(d.amount_minor, 0) * d.probability) AS weighted
     FROM deals d JOIN stages s ON s.id = d.stage_id WHERE ${where} GROUP BY 1, 2 ORDER BY 2`;
