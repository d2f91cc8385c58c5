import type { DealDetail, DealRow } from '@emporikon/contract/deals';
import type { Turn } from '@emporikon/contract/ledger';
import type { Task } from '@emporikon/contract/tasks';
import { daysInStage } from '@emporikon/core/lifecycle/deals';
import { dealChance } from '@emporikon/core/lifecycle/stages';
import { shareOfWins } from '@emporikon/core/qualifying/winChance';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Stage } from '../db/models/deals';
import { notFound } from '../http/problems';
import { newsOfDeals, type News } from '../ledger/looks';
import { turnsOfDeals } from '../ledger/turns';
import { loadStages, stageViews } from '../pipelines/stages';
import { loadMeasure } from '../qualifying/score';
import { nextMoves, openMoves } from '../tasks/queries';
import type { DealFilter } from './filter';
import { linesOf } from './lines';
import { notKnownOf } from './asks';
import { NATURAL_DIRECTION, pageOfDeals, sortedDeals, type DealSort } from './page';
import { peopleOf } from './people';

interface Row {
  id: string;
  version: number;
  title: string;
  company_id: string | null;
  company: string | null;
  pipeline_id: string;
  stage_id: string;
  kind: 'open' | 'won' | 'lost';
  stage_since: Date;
  amount_minor: number | null;
  currency: string;
  probability: number;
  probability_by_hand: boolean;
  expected_close: string | null;
  owner_id: string;
  owner: string;
  tags: string[];
  closed_at: Date | null;
  close_reason: string | null;
  lead_id: string | null;
  lead_chance: number | null;
}

const SELECT = `
  SELECT d.id, d.version, d.title, d.company_id, c.name AS company, s.pipeline_id, d.stage_id, s.kind, d.stage_since, d.amount_minor, d.currency,
         d.probability, d.probability_by_hand, d.expected_close::text, d.owner_id, u.name AS owner, d.tags, d.closed_at, d.close_reason, d.lead_id, g.chance AS lead_chance
    FROM deals d JOIN stages s ON s.id = d.stage_id JOIN users u ON u.id = d.owner_id
    LEFT JOIN companies c ON c.id = d.company_id LEFT JOIN lead_scores g ON g.lead_id = d.lead_id`;

const NOTHING_SAID: Turn = { turn: 'nobody', since: null, because: 'nothing said yet' };

/** The win chance of an open deal, from that of its lead and the chance it has by its stage. */
function chanceOf(row: Row, base: number): number | null {
  return row.kind === 'open' ? dealChance(row.lead_chance, base, row.probability / 100) : null;
}

function asRow(
  row: Row,
  now: string,
  base: number,
  moves: ReadonlyMap<string, Task>,
  { turns, news }: { turns: ReadonlyMap<string, Turn>; news: ReadonlyMap<string, News> },
): DealRow {
  return {
    id: row.id,
    version: row.version,
    title: row.title,
    company: row.company_id ? { id: row.company_id, name: row.company ?? '' } : null,
    pipelineId: row.pipeline_id,
    stageId: row.stage_id,
    stageSince: row.stage_since.toISOString(),
    days: daysInStage(row.stage_since.toISOString(), row.closed_at?.toISOString() ?? now),
    amountMinor: row.amount_minor,
    currency: row.currency,
    probability: row.probability,
    probabilityByHand: row.probability_by_hand,
    expectedClose: row.expected_close,
    owner: { id: row.owner_id, name: row.owner },
    tags: row.tags,
    closedAt: row.closed_at?.toISOString() ?? null,
    closeReason: row.close_reason,
    winChance: chanceOf(row, base),
    nextMove: moves.get(row.id) ?? null,
    turn: turns.get(row.id) ?? NOTHING_SAID,
    news: news.get(row.id) ?? null,
  };
}

/** Deals of these ids, in their order. */
export async function dealRows(context: Context, ids: readonly string[]): Promise<DealRow[]> {
  if (!ids.length) return [];
  const rows = await context.sequelize.query<Row>(`${SELECT} WHERE d.id IN (:ids)`, {
    replacements: { ids },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const moves = await nextMoves(context, 'deal_id', ids);
  const said = { turns: await turnsOfDeals(context, ids), news: await newsOfDeals(context, ids) };
  const base = shareOfWins((await loadMeasure(context)).model);
  const now = context.now().toISOString();
  const byId = new Map(rows.map((row) => [row.id, asRow(row, now, base, moves, said)]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

interface DealQuery extends DealFilter {
  state: 'open' | 'won' | 'lost' | 'all';
  sort: DealSort;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}

/** Deals by one of their columns, those newest in their stage first where nothing is said. */
export async function listDeals(
  context: Context,
  { cursor, limit, state, sort, direction = NATURAL_DIRECTION[sort], ...filter }: DealQuery,
): Promise<{ items: DealRow[]; next: string | null }> {
  const stages = (await loadStages(context, filter.pipeline)).filter(
    ({ id, kind }) => (state === 'all' || kind === state) && (!filter.stage || id === filter.stage),
  );
  const stageIds = stages.map(({ id }) => id);
  const { ids, next } =
    sort === 'since' && direction === 'desc'
      ? await pageOfDeals(context, stageIds, filter, { cursor, limit })
      : await sortedDeals(context, stageIds, filter, { sort, direction, cursor, limit });
  return { items: await dealRows(context, ids), next };
}

export async function dealRow(context: Context, id: string): Promise<DealRow> {
  const [row] = await dealRows(context, [id]);
  if (!row) throw notFound('There is no such deal.');
  return row;
}

export async function dealDetail(context: Context, id: string): Promise<DealDetail> {
  const row = await dealRow(context, id);
  const stage = await Stage.findByPk(row.stageId, { transaction: context.tx });
  const [view] = stage ? await stageViews(context, [stage]) : [];
  if (!stage || !view) throw notFound('There is no such deal.');
  const [lead] = await context.sequelize.query<{ id: string | null }>(
    'SELECT lead_id AS id FROM deals WHERE id = :id',
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return {
    ...row,
    stage: view,
    moves: await openMoves(context, 'deal_id', id),
    leadId: lead?.id ?? null,
    people: await peopleOf(context, id),
    ...(await linesOf(context, id)),
    notKnown: await notKnownOf(context, id, stage),
  };
}
