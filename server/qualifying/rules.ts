import type { In, Reply } from '@emporikon/contract';
import { fitOf, type FitRule } from '@emporikon/core/qualifying/fit';
import { TOUCH_KINDS, TOUCHES } from '@emporikon/core/qualifying/warmth';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { FitRuleRow, WarmthRulesRow, WinModelRow } from '../db/models/qualifying';
import { stale } from '../http/problems';
import { addJob } from '../jobs/job';
import { scoreAllJob } from './jobs';
import { factsSql } from './facts';
import { fitFactsOf, loadMeasure, type FactRow } from './score';

type Draft = Omit<FitRule, 'id'>;

/** Replaces the rule sheet; undone as one. @throws 409 when somebody changed it since it was read */
export async function setFitSheet(
  context: Context,
  rules: readonly Draft[],
  seen: In<'PUT /api/fit-rules', 'body'>['seen'],
): Promise<string | null> {
  await context.sequelize.query('LOCK TABLE fit_rules IN SHARE ROW EXCLUSIVE MODE', {
    transaction: context.tx,
  });
  const known = await FitRuleRow.findAll({ order: ['position'], transaction: context.tx });
  const keyOf = (one: { id: string; version: number }): string => `${one.id}/${one.version}`;
  if (known.map(keyOf).sort().join() !== seen.map(keyOf).sort().join())
    throw stale({ rules: known.map((one) => one.get({ plain: true })) });
  for (const row of known.slice(rules.length)) await context.write.remove(row);
  for (const [position, rule] of rules.entries()) {
    const row = known[position];
    const values = { ...rule, position };
    if (row) await context.write.update(row, values);
    else await context.write.insert(FitRuleRow, { id: context.newId(), ...values });
  }
  await addJob(context, scoreAllJob, {}, 'score-all');
  return context.write.event('set fit rules', 'Changed the fit rules', requireActor(context).id);
}

const MOST_RANKED = 2000;
const SHOWN = 25;

/** How today's open leads would be ranked by another sheet, beside how they are ranked now. Writes nothing. */
export async function previewFit(
  context: Context,
  rules: readonly Draft[],
): Promise<Reply<'POST /api/fit-rules/preview'>> {
  const measure = await loadMeasure(context);
  const rows = await context.sequelize.query<FactRow & { title: string; person: string }>(
    `SELECT f.*, l.title, p.full_name AS person FROM (${factsSql(
      `SELECT id, :now::timestamptz FROM (SELECT id FROM leads WHERE status IN ('new', 'working', 'qualified') ORDER BY created_at DESC LIMIT ${MOST_RANKED}) open`,
      measure.warmth,
    )}) f JOIN leads l ON l.id = f.id JOIN people p ON p.id = f.person_id`,
    { replacements: { now: context.now() }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const draft = rules.map((rule, at) => ({ ...rule, id: String(at) }));
  const scored = rows.map((row) => {
    const facts = fitFactsOf(row);
    return { row, before: fitOf(measure.fit, facts).score, after: fitOf(draft, facts).score };
  });
  const rank = (of: 'before' | 'after'): Map<string, number> =>
    new Map(
      [...scored]
        .sort((a, b) => b[of] - a[of] || (a.row.id < b.row.id ? -1 : 1))
        .map((one, at) => [one.row.id, at + 1]),
    );
  const [before, after] = [rank('before'), rank('after')];
  return {
    leads: scored.length,
    items: scored
      .map(({ row, ...scores }) => ({
        lead: { id: row.id, name: row.title },
        person: row.person,
        ...scores,
        rankBefore: before.get(row.id) ?? 0,
        rankAfter: after.get(row.id) ?? 0,
      }))
      .sort((a, b) => a.rankAfter - b.rankAfter)
      .slice(0, SHOWN),
  };
}

async function warmthRow(context: Context): Promise<WarmthRulesRow> {
  return WarmthRulesRow.findOne({ transaction: context.tx, lock: true, rejectOnEmpty: true });
}

export async function warmthRules(context: Context): Promise<Reply<'GET /api/warmth-rules'>> {
  const row = await warmthRow(context);
  return {
    version: row.version,
    halfLifeDays: row.halfLifeDays,
    kinds: TOUCH_KINDS.map((kind) => ({
      kind,
      label: TOUCHES[kind].label,
      points: row.points[kind] ?? TOUCHES[kind].points,
    })),
  };
}

export async function changeWarmthRules(
  context: Context,
  { version, points, ...patch }: In<'PATCH /api/warmth-rules', 'body'>,
): Promise<string | null> {
  const row = await warmthRow(context);
  await context.write.update(
    row,
    { ...patch, ...(points ? { points: { ...row.points, ...points } } : {}) },
    version,
  );
  await addJob(context, scoreAllJob, {}, 'score-all');
  return context.write.event('change warmth rules', 'Changed the warmth rules', requireActor(context).id);
}

/** What the win chance was learnt from and how well it did. */
export async function winModelView(context: Context): Promise<Reply<'GET /api/win-model'>> {
  const newest = await WinModelRow.findOne({ order: [['madeAt', 'DESC']], transaction: context.tx });
  const { model } = await loadMeasure(context);
  return {
    kind: model.kind,
    madeAt: newest?.madeAt.toISOString() ?? null,
    closed: model.closed,
    won: model.won,
    held: model.held,
    features: model.features
      .map(({ label, weight }) => ({ label, weight }))
      .sort((a, b) => Math.abs(b.weight) - Math.abs(a.weight)),
  };
}

/** Why leads were dropped since a day. */
export async function dropFigures(
  context: Context,
  since: string | undefined,
): Promise<Reply<'GET /api/figures/drops'>> {
  const options = {
    replacements: { since: since ?? null },
    type: QueryTypes.SELECT as const,
    transaction: context.tx,
  };
  const reasons = await context.sequelize.query<{ reason: string; count: number }>(
    `SELECT min(btrim(drop_reason)) AS reason, sum(n)::int AS count FROM (
       SELECT drop_reason, count(*) AS n FROM leads
        WHERE status = 'dropped' AND status_since >= coalesce(:since::date, '-infinity') GROUP BY drop_reason) given
      GROUP BY folded(drop_reason) ORDER BY count DESC, reason`,
    options,
  );
  const [row] = await context.sequelize.query<{ closed: number }>(
    `SELECT count(*)::int AS closed FROM leads WHERE status IN ('dropped', 'converted') AND status_since >= coalesce(:since::date, '-infinity')`,
    options,
  );
  return { reasons, dropped: reasons.reduce((sum, one) => sum + one.count, 0), closed: row?.closed ?? 0 };
}
