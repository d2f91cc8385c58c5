import type { Parsed, Reply } from '@emporikon/contract';
import {
  backTest,
  COMMITTED_FROM,
  forecastCells,
  type ForecastCell,
} from '@emporikon/core/lifecycle/forecast';
import { DateTime } from 'luxon';
import { localNow, runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { early, type Handlers } from '../http/mount';
import { invalid } from '../http/problems';
import { simulateInThread } from './thread';
import { loadAsOf, loadForecast, wonIn } from './load';

const months = (from: string, count: number): string[] =>
  Array.from({ length: count }, (_, at) =>
    DateTime.fromISO(`${from.slice(0, 7)}-01`)
      .plus({ months: at })
      .toFormat('yyyy-MM'),
  );

const NOTHING = { deals: 0, wonMinor: 0, committedMinor: 0, weightedMinor: 0, bestMinor: 0 };

function sumUp(cells: readonly ForecastCell[]): typeof NOTHING {
  return cells.reduce(
    (sum, cell) => ({
      deals: sum.deals + cell.deals,
      wonMinor: sum.wonMinor + cell.wonMinor,
      committedMinor: sum.committedMinor + cell.committedMinor,
      weightedMinor: sum.weightedMinor + cell.weightedMinor,
      bestMinor: sum.bestMinor + cell.bestMinor,
    }),
    NOTHING,
  );
}

async function forecast(
  tools: Tools,
  actor: Actor | null,
  query: Parsed<'GET /api/forecast', 'query'>,
): Promise<Reply<'GET /api/forecast'>> {
  const today = localNow({ ...tools, actor }).slice(0, 10);
  const from = query.from ?? today;
  if (!DateTime.fromISO(from).isValid)
    throw invalid('There is no such day.', { fields: { from: 'is no day' } });
  const wanted = months(from, query.months);
  const loaded = await runInTransaction(tools, actor, (context) =>
    loadForecast(context, query, { from, today, basis: query.basis }),
  );
  const deals = loaded.deals.filter((deal) => wanted.includes(deal.month));
  const cells = forecastCells(deals);
  const simulated = await simulateInThread(deals, query);
  const none = (month: string): (typeof simulated)['total'] => ({
    month,
    low: 0,
    middle: 0,
    high: 0,
    mean: 0,
    error: 0,
  });
  return {
    currency: tools.house.currency,
    basis: query.basis,
    committedFrom: COMMITTED_FROM,
    months: wanted.map((month) => ({ month, ...sumUp(cells.filter((cell) => cell.month === month)) })),
    cells: cells.map(({ ownerId, ...cell }) => ({
      ...cell,
      owner: { id: ownerId, name: loaded.owners.get(ownerId) ?? '' },
    })),
    simulated: {
      ...simulated,
      months: wanted.map((month) => simulated.months.find((one) => one.month === month) ?? none(month)),
    },
    missing: loaded.missing,
  };
}

/** The forecast of the first day of each past month, made of the deals as they were then, beside what came. */
async function backTests(
  context: Context,
  query: Parsed<'GET /api/forecast/back-test', 'query'>,
): Promise<Reply<'GET /api/forecast/back-test'>> {
  const first = DateTime.fromISO(localNow(context)).startOf('month').minus({ months: query.months });
  const items: Reply<'GET /api/forecast/back-test'>['items'] = [];
  for (const month of months(first.toISODate() ?? '', query.months)) {
    const { deals } = await loadAsOf(context, query, `${month}-01`);
    const won = await wonIn(context, query, month);
    const seen = new Set(deals.map((deal) => deal.id));
    const sum = (these: readonly { minor: number }[]): number =>
      these.reduce((all, one) => all + one.minor, 0);
    items.push(
      backTest(
        month,
        deals,
        { wonMinor: sum(won), seenMinor: sum(won.filter((one) => seen.has(one.id))) },
        query,
      ),
    );
  }
  return { currency: context.house.currency, items };
}

export const forecastHandlers: Handlers = {
  'GET /api/forecast': early(({ query, tools, actor }) => forecast(tools, actor, query)),
  'GET /api/forecast/back-test': async ({ query, context }) => backTests(context, query),
};
