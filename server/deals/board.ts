import type { Board, DealRow } from '@emporikon/contract/deals';
import { addUpSums, type Totals } from '@emporikon/core/lifecycle/deals';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { localNow, type Context } from '../commands/context';
import { notFound } from '../http/problems';
import { loadStages, pipelineOf, stageViews } from '../pipelines/stages';
import type { DealFilter } from './filter';
import { toHouse } from './house';
import { pageOfDeals } from './page';
import { dealRows } from './queries';
import { openSums, wonSums, type StageSum } from './sums';

/** So many cards a board brings along at most, and so many each lane. */
const MOST_CARDS = 360;
const MOST_A_LANE = 60;

type Kind = 'open' | 'won' | 'lost';
/** When this month began on the clock of whoever asks: what was won before is no longer on the board. */
const monthStart = (context: Context): string =>
  DateTime.fromISO(localNow(context), { setZone: true }).startOf('month').toISO() ?? '';

/** Which deals of a stage stand on the board, as SQL over `d`. */
const ON_BOARD: Record<Kind, string> = {
  open: 'true',
  won: 'd.closed_at >= :monthStart::timestamptz',
  lost: 'false',
};

async function cardsOf(
  context: Context,
  stage: { id: string; kind: Kind },
  filter: DealFilter,
  page: { cursor?: string | undefined; limit: number },
): Promise<{ ids: string[]; next: string | null }> {
  if (stage.kind === 'lost') return { ids: [], next: null };
  const replacements = { monthStart: monthStart(context) };
  return pageOfDeals(context, [stage.id], filter, page, { sql: ON_BOARD[stage.kind], replacements });
}

const wordsOf = (context: Context, pipelineId: string): Promise<{ tags: string[]; teams: string[] }[]> =>
  context.sequelize.query(
    `SELECT ARRAY(SELECT tag FROM tag_counts WHERE kind = 'd' AND pipeline_id = :pipelineId GROUP BY tag HAVING sum(records) > 0 ORDER BY tag LIMIT 200) AS tags,
            ARRAY(SELECT DISTINCT team FROM users WHERE team <> '' AND active ORDER BY 1) AS teams`,
    { replacements: { pipelineId }, type: QueryTypes.SELECT, transaction: context.tx },
  );

/**
 * The pipeline: every stage with its count and sums, and the first cards of its lane. Lost deals and wins of past months
 * stay out.
 */
export async function board(context: Context, id: string, filter: DealFilter): Promise<Board> {
  const pipeline = await pipelineOf(context, id);
  const stages = await stageViews(context, await loadStages(context, pipeline.id));
  const idsOf = (kind: Kind): string[] => stages.flatMap((stage) => (stage.kind === kind ? stage.id : []));
  const sums = [
    ...(await openSums(context, idsOf('open'), filter)),
    ...(await wonSums(context, idsOf('won'), filter, monthStart(context))),
  ];
  const convertSum = await toHouse(context);
  const total = (given: readonly StageSum[]): Totals =>
    addUpSums(given, context.house.currency, (minor, currency) => convertSum(minor, currency));
  const limit = Math.min(MOST_A_LANE, Math.floor(MOST_CARDS / Math.max(1, stages.length)));
  const lanes = new Map<string, { ids: string[]; next: string | null }>();
  for (const stage of stages) lanes.set(stage.id, await cardsOf(context, stage, filter, { limit }));
  const open = total(sums.filter(({ stageId }) => idsOf('open').includes(stageId)));
  const [words] = await wordsOf(context, pipeline.id);
  return {
    pipeline: { id: pipeline.id, name: pipeline.name },
    stages: stages.map((stage) => ({
      ...stage,
      ...total(sums.filter(({ stageId }) => stageId === stage.id)),
      next: lanes.get(stage.id)?.next ?? null,
    })),
    deals: await dealRows(
      context,
      [...lanes.values()].flatMap(({ ids }) => ids),
    ),
    open: open.count,
    sums: open.sums,
    total: open.total,
    tags: words?.tags ?? [],
    teams: words?.teams ?? [],
  };
}

/** The further cards of one lane. @throws 404 */
export async function furtherCards(
  context: Context,
  { id, stageId }: { id: string; stageId: string },
  { cursor, limit, ...filter }: DealFilter & { cursor?: string; limit: number },
): Promise<{ items: DealRow[]; next: string | null }> {
  const stage = (await loadStages(context, id)).find((stage) => stage.id === stageId);
  if (!stage) throw notFound('There is no such stage in this pipeline.');
  const { ids, next } = await cardsOf(context, stage, filter, { cursor, limit });
  return { items: await dealRows(context, ids), next };
}
