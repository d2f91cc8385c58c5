import type { ForecastDeal } from '@emporikon/core/lifecycle/play';
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

/** Deals of one owner, stage and currency, packed into one text, because hundreds of thousands of rows take seconds. */
interface Pack {
  owner_id: string;
  owner: string;
  currency: string;
  kind: 'open' | 'won' | 'lost';
  /** Days that won deals usually take from this stage on. */
  ahead: number;
  packed: string;
}

const AHEAD = `(SELECT coalesce(sum(n.typical_days), 0)::int FROM stages n WHERE n.pipeline_id = s.pipeline_id AND n.kind = 'open' AND n.position >= s.position)`;

export interface Loaded {
  deals: ForecastDeal[];
  owners: Map<string, string>;
  missing: string[];
}

const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

/** What a pack holds of each deal: id, amount, probability, days since 2000 it is expected or was won on, chance of its lead. */
const packed = (row: string, day: string, lead: string): string =>
  `string_agg(concat(d.id, ',', ${row}.amount_minor, ',', ${row}.probability, ',', (${day} - date '2000-01-01'), ',', ${lead}), ' ' ORDER BY d.id)`;
const PACKED_NOW = packed('d', 'coalesce(d.closed_at::date, d.expected_close)', 'g.chance');
const PACKED_AS_OF = packed('t', 't.expected_close', 'NULL::text');
const EPOCH = Date.parse('2000-01-01T00:00:00Z');
const dayOf = (text: string): string | null =>
  text ? new Date(EPOCH + Number(text) * 86_400_000).toISOString().slice(0, 10) : null;

/** Deals as a forecast sees them, as of a day; those in a currency without a rate are left out and it is named. */
async function asForecast(
  context: Context,
  packs: readonly Pack[],
  today: string,
  basis: Basis,
): Promise<Loaded> {
  const convertSum = await toHouse(context);
  const base = basis === 'win' ? shareOfWins((await loadMeasure(context)).model) : 0;
  const missing = new Set<string>();
  const deals: ForecastDeal[] = [];
  for (const pack of packs) {
    const won = pack.kind === 'won';
    const fallback = dayAfter(today, pack.ahead);
    const places = new Map<string, { day: string; month: string }>();
    const placeOf = (text: string): { day: string; month: string } => {
      const day = dayOf(text);
      const place = won
        ? { day: day ?? today, month: (day ?? today).slice(0, 7) }
        : { day: today, month: monthOf(day, today, fallback) };
      places.set(text, place);
      return place;
    };
    for (const one of pack.packed.split(' ')) {
      const [id = '', amount = '', probability = '', on = '', lead = ''] = one.split(',');
      const { day, month } = places.get(on) ?? placeOf(on);
      const minor = convertSum(Number(amount), pack.currency, day);
      if (minor === null) {
        missing.add(pack.currency);
        continue;
      }
      const stage = Number(probability) / 100;
      const chance = basis === 'win' && !won ? dealChance(lead ? Number(lead) : null, base, stage) : stage;
      deals.push({ id, ownerId: pack.owner_id, minor, won, chance: won ? 1 : chance, month });
    }
  }
  return { deals, owners: new Map(packs.map((pack) => [pack.owner_id, pack.owner])), missing: [...missing] };
}

/** All open deals, and those won since the month of `from` began. */
export async function loadForecast(
  context: Context,
  filter: Filter,
  { from, today, basis }: { from: string; today: string; basis: Basis },
): Promise<Loaded> {
  const { sql, replacements } = dealConditions(filter);
  const packs = await context.sequelize.query<Pack>(
    `SELECT p.owner_id, u.name AS owner, p.currency, s.kind, ${AHEAD} AS ahead, p.packed
       FROM (
         SELECT d.owner_id, d.stage_id, d.currency,
                ${PACKED_NOW} AS packed
           FROM deals d JOIN stages s ON s.id = d.stage_id LEFT JOIN lead_scores g ON g.lead_id = d.lead_id
          WHERE ${sql} AND (s.kind = 'open' OR (s.kind = 'won' AND d.closed_at >= :since::date)) GROUP BY 1, 2, 3) p
       JOIN stages s ON s.id = p.stage_id JOIN users u ON u.id = p.owner_id ORDER BY p.owner_id, p.stage_id, p.currency`,
    {
      replacements: { ...replacements, since: `${from.slice(0, 7)}-01` },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return asForecast(context, packs, today, basis);
}

/** The deals that were open when a day began, as they were then. */
export async function loadAsOf(context: Context, filter: Filter, day: string): Promise<Loaded> {
  const { sql, replacements } = dealConditions(filter);
  const packs = await context.sequelize.query<Pack>(
    `SELECT p.owner_id, u.name AS owner, p.currency, 'open' AS kind, p.packed,
            (SELECT coalesce(sum(n.typical_days), 0)::int FROM stages n WHERE n.pipeline_id = w.pipeline_id AND n.kind = 'open' AND n.position >= w.position) AS ahead
       FROM (
         SELECT t.owner_id, t.stage_id, t.currency, ${PACKED_AS_OF} AS packed
           FROM (SELECT DISTINCT ON (h.deal_id) h.* FROM deal_states h WHERE h.at < :day::date ORDER BY h.deal_id, h.at DESC, h.id DESC) t
           JOIN stages v ON v.id = t.stage_id AND v.kind = 'open'
           JOIN deals d ON d.id = t.deal_id JOIN stages s ON s.id = d.stage_id
          WHERE ${sql} GROUP BY 1, 2, 3) p
       JOIN stages w ON w.id = p.stage_id JOIN users u ON u.id = p.owner_id ORDER BY p.owner_id, p.stage_id, p.currency`,
    { replacements: { ...replacements, day }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return asForecast(context, packs, day, 'stage');
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
