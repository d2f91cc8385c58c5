import { measureStages, type DealWay, type Measured } from '@emporikon/core/lifecycle/stages';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

interface WayRow {
  won: boolean;
  stages: string[];
  days: number[];
}

const MOST = 20_000;

/** The ways of the newest closed deals: each stage they stood in, and how many days. */
const WAYS = `
  WITH closed AS (
    SELECT d.id, s.kind = 'won' AS won FROM deals d JOIN stages s ON s.id = d.stage_id
     WHERE d.closed_at IS NOT NULL AND s.kind <> 'open' ORDER BY d.closed_at DESC LIMIT ${MOST}),
  stays AS (
    SELECT t.deal_id, t.stage_id, t.at, lead(t.at) OVER (PARTITION BY t.deal_id ORDER BY t.at, t.id) AS until
      FROM deal_states t JOIN closed k ON k.id = t.deal_id)
  SELECT c.won, array_agg(y.stage_id ORDER BY y.at) AS stages,
         array_agg(extract(epoch FROM y.until - y.at)::float8 / 86400 ORDER BY y.at) AS days
    FROM (SELECT deal_id, stage_id, at, until FROM stays WHERE until IS NOT NULL) y
    JOIN closed c ON c.id = y.deal_id GROUP BY c.id, c.won`;

/** What the house's own closed deals show of each stage. */
export async function measuredStages(
  context: Pick<Context, 'sequelize' | 'tx'>,
): Promise<Map<string, Measured>> {
  const rows = await context.sequelize.query<WayRow>(WAYS, {
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return measureStages(
    rows.map<DealWay>((row) => ({
      won: row.won,
      stays: row.stages.map((stageId, at) => ({ stageId, days: row.days[at] ?? 0 })),
    })),
  );
}
