import type { Board, DealDetail, DealRow } from '@emporikon/contract/deals';
import type { Turn } from '@emporikon/contract/ledger';
import type { Task } from '@emporikon/contract/tasks';
import { daysInStage, sumDeals } from '@emporikon/core/lifecycle/deals';
import { dealChance } from '@emporikon/core/lifecycle/stages';
import { shareOfWins } from '@emporikon/core/qualifying/winChance';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Stage } from '../db/models/deals';
import { decodeCursor, encodeCursor } from '../http/paging';
import { notFound } from '../http/problems';
import { turnsOfDeals } from '../ledger/queries';
import { loadStages, pipelineOf, stageViews } from '../pipelines/stages';
import { loadMeasure } from '../qualifying/score';
import { nextMoves } from '../tasks/queries';
import { dealConditions, type DealFilter } from './filter';
import { inHouseCurrency } from './house';
import { linesOf } from './lines';
import { notKnownOf } from './asks';
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
  turns: ReadonlyMap<string, Turn>,
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
  };
}

async function select(
  context: Context,
  where: string,
  replacements: Record<string, unknown>,
): Promise<DealRow[]> {
  const rows = await context.sequelize.query<Row>(`${SELECT} WHERE ${where}`, {
    replacements,
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const ids = rows.map((row) => row.id);
  const moves = await nextMoves(context, 'deal_id', ids);
  const turns = await turnsOfDeals(context, ids);
  const base = shareOfWins((await loadMeasure(context)).model);
  const now = context.now().toISOString();
  return rows.map((row) => asRow(row, now, base, moves, turns));
}

/** Deals, those newest in their stage first. */
export async function listDeals(
  context: Context,
  query: DealFilter & { state: 'open' | 'won' | 'lost' | 'all'; cursor?: string; limit: number },
): Promise<{ items: DealRow[]; next: string | null }> {
  const [since = '', last = ''] = decodeCursor(query.cursor, 2);
  const { sql, replacements } = dealConditions(query);
  const items = await select(
    context,
    `${sql} AND (:state = 'all' OR s.kind = :state)
       AND (:last = '' OR (d.stage_since, d.id::text) < (:since::timestamptz, :last)) ORDER BY d.stage_since DESC, d.id::text DESC LIMIT :limit`,
    { ...replacements, state: query.state, since: since || null, last, limit: query.limit + 1 },
  );
  const page = items.slice(0, query.limit);
  const end = page.at(-1);
  return {
    items: page,
    next: items.length > query.limit && end ? encodeCursor([end.stageSince, end.id]) : null,
  };
}

/** The pipeline: every stage with its count and sums, and the deals in it. Lost deals and wins of past months stay out. */
export async function board(context: Context, id: string, filter: DealFilter): Promise<Board> {
  const pipeline = await pipelineOf(context, id);
  const stages = await stageViews(context, await loadStages(context, pipeline.id));
  const { sql, replacements } = dealConditions({ ...filter, pipeline: pipeline.id });
  const deals = await select(
    context,
    `${sql} AND (s.kind = 'open' OR (s.kind = 'won' AND d.closed_at >= date_trunc('month', :now::timestamptz))) ORDER BY d.stage_since DESC, d.id`,
    { ...replacements, now: context.now() },
  );
  const total = await inHouseCurrency(context);
  const kinds = new Map(stages.map((stage) => [stage.id, stage.kind]));
  const open = deals.filter((deal) => kinds.get(deal.stageId) === 'open');
  const [words] = await context.sequelize.query<{ tags: string[]; teams: string[] }>(
    `SELECT ARRAY(SELECT DISTINCT unnest(d.tags) FROM deals d JOIN stages s ON s.id = d.stage_id WHERE s.pipeline_id = :pipeline ORDER BY 1 LIMIT 200) AS tags,
            ARRAY(SELECT DISTINCT team FROM users WHERE team <> '' AND active ORDER BY 1) AS teams`,
    { replacements: { pipeline: pipeline.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return {
    pipeline: { id: pipeline.id, name: pipeline.name },
    stages: stages.map((stage) => {
      const inside = deals.filter((deal) => deal.stageId === stage.id);
      return { ...stage, count: inside.length, sums: sumDeals(inside), total: total(inside) };
    }),
    deals,
    open: open.length,
    sums: sumDeals(open),
    total: total(open),
    tags: words?.tags ?? [],
    teams: words?.teams ?? [],
  };
}

export async function dealRow(context: Context, id: string): Promise<DealRow> {
  const [row] = await select(context, 'd.id = :id', { id });
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
    leadId: lead?.id ?? null,
    people: await peopleOf(context, id),
    ...(await linesOf(context, id)),
    notKnown: await notKnownOf(context, id, stage),
  };
}
