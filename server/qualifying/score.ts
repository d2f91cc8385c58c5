import { fitOf, fitScore, type Fit, type FitFacts, type FitRule } from '@emporikon/core/qualifying/fit';
import { warmthOf, type Touch, type Warmth, type WarmthRules } from '@emporikon/core/qualifying/warmth';
import {
  trainWinModel,
  winChance,
  type WinChance,
  type WinFacts,
  type WinModel,
} from '@emporikon/core/qualifying/winChance';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { FitRuleRow, WarmthRulesRow, WinModelRow } from '../db/models/qualifying';
import { notFound } from '../http/problems';
import { factsSql, touchesSql } from './facts';
import { chanceSql, fitSql } from './scoreSql';

type Database = Pick<Context, 'sequelize' | 'tx'>;

/** By what leads are judged. */
export interface Measure {
  fit: FitRule[];
  warmth: WarmthRules;
  model: WinModel;
}

export async function loadMeasure(context: Database): Promise<Measure> {
  const rules = await FitRuleRow.findAll({ order: ['position'], transaction: context.tx });
  const warmth = await WarmthRulesRow.findOne({ transaction: context.tx });
  const newest = await WinModelRow.findOne({ order: [['madeAt', 'DESC']], transaction: context.tx });
  return {
    fit: rules.map(({ id, field, condition, value, points }) => ({ id, field, condition, value, points })),
    warmth: { halfLifeDays: warmth?.halfLifeDays ?? 14, points: warmth?.points ?? {} },
    model: newest?.model ?? trainWinModel([]),
  };
}

/** One row of facts as the database gives it. */
export interface FactRow {
  id: string;
  person_id: string;
  as_of: Date;
  source: string;
  job_title: string | null;
  standing: string;
  tags: string[];
  time_zone: string | null;
  industry: string | null;
  employees: number | null;
  country: string | null;
  technologies: string[] | null;
  quantity: string | null;
  amount: string | null;
  completeness: number;
  days_open: number;
  answered: number;
  response_hours: number | null;
  warmth_points: number;
  last_mailed: Date | null;
}

export const fitFactsOf = (row: FactRow): FitFacts => ({
  industry: row.industry,
  employees: row.employees,
  country: row.country,
  technologies: row.technologies,
  jobTitle: row.job_title,
  standing: row.standing,
  tags: row.tags,
  source: row.source,
  timeZone: row.time_zone,
  quantity: row.quantity === null ? null : Number(row.quantity),
  amount: row.amount === null ? null : Number(row.amount),
});

export const winFactsOf = (row: FactRow, fit: number, warmth: number): WinFacts => ({
  fit,
  warmth,
  completeness: row.completeness,
  daysOpen: row.days_open,
  answered: row.answered,
  responseHours: row.response_hours,
  hasAmount: row.amount !== null,
  source: row.source,
  stage: '',
});

export interface Judged {
  fit: Fit;
  warmth: Warmth;
  completeness: number;
  chance: WinChance;
}

/** One lead judged as things stand now, with every reason. @throws 404 */
export async function judgeLead(context: Context, id: string): Promise<Judged> {
  const measure = await loadMeasure(context);
  const now = context.now();
  const options = { type: QueryTypes.SELECT as const, transaction: context.tx };
  const [row] = await context.sequelize.query<FactRow>(
    factsSql('SELECT :id::uuid, :now::timestamptz', measure.warmth),
    { ...options, replacements: { id, now } },
  );
  if (!row) throw notFound('There is no such lead.');
  const touches = await context.sequelize.query<{ kind: Touch['kind']; at: Date; words: string }>(
    touchesSql(':personId::uuid', ':now::timestamptz'),
    { ...options, replacements: { personId: row.person_id, now } },
  );
  const fit = fitOf(measure.fit, fitFactsOf(row));
  const warmth = warmthOf(
    touches.map((touch) => ({ ...touch, at: touch.at.toISOString() })),
    measure.warmth,
    now.toISOString(),
    row.last_mailed?.toISOString() ?? null,
  );
  return {
    fit,
    warmth,
    completeness: row.completeness,
    chance: winChance(measure.model, winFactsOf(row, fit.score, warmth.score)),
  };
}

/** The expressions that score rows of facts in the database, as the core does. */
export function scoringSql(
  subjects: string,
  { fit, warmth, model }: Measure,
): { sql: string; values: Record<string, unknown> } {
  const [least, most] = [
    fit.reduce((sum, rule) => sum + Math.min(0, rule.points), 0),
    fit.reduce((sum, rule) => sum + Math.max(0, rule.points), 0),
  ];
  const points = fitSql(fit);
  const chance = chanceSql(model);
  return {
    sql: `SELECT g.*, ${chance.sql} AS chance FROM (
            SELECT f.*, ${most === least ? String(fitScore(0, fit)) : `round((((${points.sql}) - :least::int) * 100.0) / :span::int)::int`} AS fit,
                   round((100 * (1 - exp(-f.warmth_points / 40.0)))::numeric)::int AS warmth
              FROM (${factsSql(subjects, warmth)}) f) g`,
    values: { ...points.values, ...chance.values, least, span: most - least },
  };
}

/** Leads that are scored: open ones, and converted ones whose deal is open. SQL over `leads`. */
export const SCORED = `(status IN ('new', 'working', 'qualified', 'parked') OR (status = 'converted'
  AND EXISTS (SELECT 1 FROM deals d JOIN stages t ON t.id = d.stage_id WHERE d.lead_id = leads.id AND t.kind = 'open')))`;

/** Scores leads in the database and keeps the scores. @param where SQL over `leads`, with its values */
export async function scoreLeads(
  context: Context,
  where = SCORED,
  values: Record<string, unknown> = {},
  given?: Measure,
): Promise<void> {
  const measure = given ?? (await loadMeasure(context));
  const scoring = scoringSql(`SELECT id, :now::timestamptz FROM leads WHERE ${where}`, measure);
  await context.sequelize.query(
    `INSERT INTO lead_scores AS s (lead_id, fit, warmth, completeness, chance, scored_at)
     SELECT id, fit, warmth, completeness, chance, :now FROM (${scoring.sql}) r
     ON CONFLICT (lead_id) DO UPDATE SET fit = excluded.fit, warmth = excluded.warmth, completeness = excluded.completeness, chance = excluded.chance, scored_at = excluded.scored_at`,
    { replacements: { ...values, ...scoring.values, now: context.now() }, transaction: context.tx },
  );
}
