import { fitOf } from '@emporikon/core/qualifying/fit';
import { warmthScore } from '@emporikon/core/qualifying/warmth';
import { trainWinModel, type Closed } from '@emporikon/core/qualifying/winChance';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { WinModelRow } from '../db/models/qualifying';
import { factsSql } from './facts';
import { fitFactsOf, loadMeasure, scoreLeads, winFactsOf, type FactRow } from './score';

/** Leads that came to an end, and when: a deal of theirs was won or lost, or they were dropped. */
const CLOSED = `
  SELECT l.id, coalesce(d.stage_since, l.status_since) AS at, (s.kind = 'won') AS won
    FROM leads l LEFT JOIN deals d ON d.lead_id = l.id LEFT JOIN stages s ON s.id = d.stage_id
   WHERE l.status = 'dropped' OR s.kind IN ('won', 'lost')`;
const MOST = 20_000;

/**
 * As of when a closed lead is looked at: somewhere within its life, by its id the same each time. Open leads are judged
 * in the midst of theirs; looked at on their last day, closed ones would teach that whatever is young is lost.
 */
const MIDST = `SELECT e.id, l.created_at + (e.at - l.created_at) * (0.1 + 0.8 * ('x' || substr(md5(e.id::text), 1, 7))::bit(28)::int / 268435456.0)
  FROM ended e JOIN leads l ON l.id = e.id`;

/** What was closed, each as it was within its life. */
async function loadClosed(context: Context): Promise<Closed[]> {
  const measure = await loadMeasure(context);
  const rows = await context.sequelize.query<FactRow & { won: boolean; ended_at: Date }>(
    `WITH ended AS MATERIALIZED (SELECT * FROM (${CLOSED}) e ORDER BY at DESC LIMIT ${MOST})
     SELECT f.*, ended.won, ended.at AS ended_at FROM (${factsSql(MIDST, measure.warmth)}) f JOIN ended ON ended.id = f.id`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => ({
    facts: winFactsOf(row, fitOf(measure.fit, fitFactsOf(row)).score, warmthScore(row.warmth_points)),
    won: row.won === true,
    at: row.ended_at.toISOString(),
  }));
}

/**
 * Learns the win chance anew from what was closed, and scores the open leads by it. The model is kept only when it is
 * whole: a training that is interrupted leaves the one before in use, and the job is done again.
 */
export async function trainWinChance(tools: Tools): Promise<void> {
  const closed = await runInTransaction(tools, null, loadClosed);
  const model = trainWinModel(closed);
  await runInTransaction(tools, null, async (context) => {
    await WinModelRow.create(
      { id: context.newId(), madeAt: context.now(), model },
      { transaction: context.tx },
    );
    await scoreLeads(context);
  });
}
