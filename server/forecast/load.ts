import type { ForecastDeal } from '@emporikon/core/lifecycle/forecast';
import { monthOf } from '@emporikon/core/lifecycle/forecast';
import { dealChance } from '@emporikon/core/lifecycle/stages';
import { shareOfWins } from '@emporikon/core/qualifying/winChance';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { dealConditions, type DealFilter } from '../deals/filter';
import { toHouse } from '../deals/house';
import { loadMeasure } from '../qualifying/score';

export type Basis = 'stage' | 'win';
type Filter = Pick<DealFilter, 'pipeline' | 'owner' | 'team'>;

interface Row {
  id: string;
  owner_id: string;
  owner: string;
  amount_minor: number | null;
  currency: string;
  probability: number;
  kind: 'open' | 'won' | 'lost';
  expected_close: string | null;
  /** Days that won deals usually take from this stage on. */
  ahead: number;
  closed_on: string | null;
  lead_chance: number | null;
}

const AHEAD = `(SELECT coalesce(sum(n.typical_days), 0)::int FROM stages n WHERE n.pipeline_id = s.pipeline_id AND n.kind = 'open' AND n.position >= s.position)`;

export interface Loaded {
  deals: ForecastDeal[];
  owners: Map<string, string>;
  missing: string[];
}

const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** Rows as a forecast sees them, as of a day; deals in a currency without a rate are left out and it is named. */
async function asForecast(
  context: Context,
  rows: readonly Row[],
  today: string,
  basis: Basis,
): Promise<Loaded> {
  const convertSum = await toHouse(context);
  const base = basis === 'win' ? shareOfWins((await loadMeasure(context)).model) : 0;
  const missing = new Set<string>();
  const deals = rows.flatMap<ForecastDeal>((row) => {
    const minor = convertSum(row.amount_minor ?? 0, row.currency, row.closed_on ?? today);
    if (minor === null) {
      missing.add(row.currency);
      return [];
    }
    const won = row.kind === 'won';
    const stage = row.probability / 100;
    return {
      id: row.id,
      ownerId: row.owner_id,
      minor,
      won,
      chance: won ? 1 : basis === 'win' ? dealChance(row.lead_chance, base, stage) : stage,
      month: won
        ? (row.closed_on ?? today).slice(0, 7)
        : monthOf(row.expected_close, today, dayAfter(today, row.ahead)),
    };
  });
  return { deals, owners: new Map(rows.map((row) => [row.owner_id, row.owner])), missing: [...missing] };
}

/** All open deals, and those won since the month of `from` began. */
export async function loadForecast(
  context: Context,
  filter: Filter,
  { from, today, basis }: { from: string; today: string; basis: Basis },
): Promise<Loaded> {
  const { sql, replacements } = dealConditions(filter);
  const rows = await context.sequelize.query<Row>(
    `SELECT d.id, d.owner_id, u.name AS owner, d.amount_minor, d.currency, d.probability, s.kind, d.expected_close::text,
            ${AHEAD} AS ahead, d.closed_at::date::text AS closed_on, g.chance AS lead_chance
       FROM deals d JOIN stages s ON s.id = d.stage_id JOIN users u ON u.id = d.owner_id LEFT JOIN lead_scores g ON g.lead_id = d.lead_id
      WHERE ${sql} AND (s.kind = 'open' OR (s.kind = 'won' AND d.closed_at >= :since::date)) ORDER BY d.id`,
    {
      replacements: { ...replacements, since: `${from.slice(0, 7)}-01` },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return asForecast(context, rows, today, basis);
}

/** The deals that were open when a day began, as they were then. */
export async function loadAsOf(context: Context, filter: Filter, day: string): Promise<Loaded> {
  const { sql, replacements } = dealConditions(filter);
  const rows = await context.sequelize.query<Row>(
    `SELECT d.id, t.owner_id, o.name AS owner, t.amount_minor, t.currency, t.probability, w.kind, t.expected_close::text,
            (SELECT coalesce(sum(n.typical_days), 0)::int FROM stages n WHERE n.pipeline_id = w.pipeline_id AND n.kind = 'open' AND n.position >= w.position) AS ahead,
            NULL AS closed_on, NULL::real AS lead_chance
       FROM deals d
       JOIN LATERAL (SELECT * FROM deal_states h WHERE h.deal_id = d.id AND h.at < :day::date ORDER BY h.at DESC, h.id DESC LIMIT 1) t ON true
       JOIN stages w ON w.id = t.stage_id JOIN users o ON o.id = t.owner_id
       JOIN stages s ON s.id = d.stage_id JOIN users u ON u.id = d.owner_id
      WHERE ${sql} AND w.kind = 'open' ORDER BY d.id`,
    { replacements: { ...replacements, day }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return asForecast(context, rows, day, 'stage');
}

/** What was won in a month in the house currency, and which deals those were. */
export async function wonIn(
  context: Context,
  filter: Filter,
  month: string,
): Promise<{ id: string; minor: number }[]> {
  const { sql, replacements } = dealConditions(filter);
  const convertSum = await toHouse(context);
  const rows = await context.sequelize.query<{
    id: string;
    amount_minor: number | null;
    currency: string;
    on: string;
  }>(
    `SELECT d.id, d.amount_minor, d.currency, d.closed_at::date::text AS "on"
       FROM deals d JOIN stages s ON s.id = d.stage_id JOIN users u ON u.id = d.owner_id
      WHERE ${sql} AND s.kind = 'won' AND d.closed_at >= :first::date AND d.closed_at < :first::date + interval '1 month'`,
    {
      replacements: { ...replacements, first: `${month}-01` },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.flatMap((row) => {
    const minor = convertSum(row.amount_minor ?? 0, row.currency, row.on);
    return minor === null ? [] : { id: row.id, minor };
  });
}
