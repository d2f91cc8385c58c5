import { z } from 'zod';
import { Id } from '@emporikon/contract/common';
import type { LookUpPlan, LookUpRun as RunView } from '@emporikon/contract/lookups';
import { QueryTypes } from 'sequelize';
import { runInTransaction, requireActor, type Actor, type Context, type Tools } from '../commands/context';
import { Lead } from '../db/models/deals';
import { LookUpRun, type LookUpSubject } from '../db/models/lookUps';
import { User } from '../db/models/users';
import { conflict, invalid, notFound } from '../http/problems';
import { addJob, defineJob } from '../jobs/job';
import { enrich } from './enrich';
import { loadLookUpRecords } from './planning/known';
import { loadPlanningData, planFor } from './planning/plan';
import { monthOf, spentInMonth } from './asking/budget';

export interface Selection {
  people: string[];
  companies: string[];
  leads: string[];
}

/** Who a selection is about, each once. */
async function subjectsOf(context: Context, selection: Selection): Promise<LookUpSubject[]> {
  const leads = selection.leads.length
    ? await Lead.findAll({ where: { id: selection.leads }, transaction: context.tx })
    : [];
  const people = [...new Set([...selection.people, ...leads.map((lead) => lead.personId)])];
  const looked = await loadLookUpRecords(context, [
    ...people.map((personId) => ({ personId, companyId: null })),
    ...[...new Set(selection.companies)].map((companyId) => ({ personId: null, companyId })),
  ]);
  return looked.map((one) => one.subject);
}

/** What of the allowance is left for somebody. */
async function leftFor(
  context: Context,
  rules: { allowance: number; perUser: number | null },
): Promise<number> {
  const spent = await spentInMonth(context, monthOf(context.now()), context.actor?.id ?? null);
  const house = rules.allowance - spent.house;
  return Math.max(0, rules.perUser === null ? house : Math.min(house, rules.perUser - spent.mine));
}

/** What a look-up would ask and cost. Writes nothing. */
export async function planSelection(context: Context, selection: Selection): Promise<LookUpPlan> {
  const looked = await loadLookUpRecords(context, await subjectsOf(context, selection));
  const ground = await loadPlanningData(context);
  const plans = looked.map((one) => planFor(one, ground));
  const questions = new Map<string, LookUpPlan['questions'][number]>();
  for (const step of plans.flat()) {
    const known = questions.get(step.source) ?? { source: step.source, label: step.label, count: 0, cost: 0 };
    questions.set(step.source, { ...known, count: known.count + 1, cost: known.cost + step.cost });
  }
  return {
    subjects: looked.length,
    steps: plans.length === 1 ? (plans[0] ?? []) : [],
    questions: [...questions.values()],
    expected: plans.flat().reduce((sum, step) => sum + step.cost, 0),
    most: plans.flat().reduce((sum, step) => sum + step.price, 0),
    left: await leftFor(context, ground.rules),
    currency: context.house.currency,
  };
}

/** A run as it is shown, with what it spent so far. */
export async function runView(context: Pick<Context, 'sequelize' | 'tx'>, run: LookUpRun): Promise<RunView> {
  const [row] = await context.sequelize.query<{ spent: number }>(
    'SELECT coalesce(sum(price), 0)::int AS spent FROM look_ups WHERE run_id = :id',
    { replacements: { id: run.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return {
    id: run.id,
    total: run.total,
    done: run.done,
    filled: run.filled,
    suggested: run.suggested,
    spent: row?.spent ?? 0,
    state: run.state,
    trouble: run.trouble ?? null,
    createdAt: run.createdAt.toISOString(),
    finishedAt: run.finishedAt?.toISOString() ?? null,
  };
}

/** @throws 404 */
export async function loadRun(context: Pick<Context, 'tx'>, id: string, lock = false): Promise<LookUpRun> {
  const run = await LookUpRun.findByPk(id, { transaction: context.tx, lock });
  if (!run) throw notFound('There is no such look-up.');
  return run;
}

/** Begins to look up a selection in the background. @throws 409 when there is no source, 422 when nobody is left in it */
export async function startRun(context: Context, selection: Selection): Promise<RunView> {
  if (!context.outside.lookUps.length)
    throw conflict(
      'No look-up source is set up. Likely addresses, country and time zone are shown without one.',
    );
  const subjects = await subjectsOf(context, selection);
  if (!subjects.length)
    throw invalid('Nobody of these is there any more.', { fields: { people: 'do not exist' } });
  const run = await context.write.insert(LookUpRun, {
    id: context.newId(),
    askedBy: requireActor(context).id,
    subjects,
    total: subjects.length,
    createdAt: context.now(),
  });
  await addJob(context, runJob, { id: run.id }, `look-ups:${run.id}`);
  await context.write.event('start look-up', `Began to look up ${subjects.length}`, requireActor(context).id);
  return runView(context, run);
}

/** Ends a run; what was found stays. */
export async function stopRun(context: Context, id: string): Promise<RunView> {
  const run = await loadRun(context, id, true);
  if (run.state === 'running') {
    await context.write.update(run, {
      state: 'stopped',
      trouble: 'Stopped by hand.',
      finishedAt: context.now(),
    });
    await context.write.event('stop look-up', 'Stopped looking up', requireActor(context).id);
  }
  return runView(context, run);
}

const AT_ONCE = 32;
/** After how many a run says how far it is, and after how many the sources are measured anew. */
const [SAY_EVERY, MEASURE_EVERY] = [16, 128];

interface Progress {
  done: number;
  filled: number;
  suggested: number;
}

async function note(
  tools: Tools,
  actor: Actor,
  id: string,
  progress: Progress,
  end: { state: 'done' | 'stopped'; trouble: string | null } | null,
): Promise<LookUpRun> {
  return runInTransaction(tools, actor, async (context) => {
    const run = await loadRun(context, id, true);
    await context.write.update(run, {
      ...progress,
      ...(end && run.state === 'running' ? { ...end, finishedAt: context.now() } : {}),
    });
    await context.write.event('look-up run', 'Went on looking up', actor.id);
    return run;
  });
}

/**
 * Looks up everybody of a run, several at once, each source at its own rate. Goes on where it stopped: those that may
 * not have been finished are taken again, and what was answered already is kept and costs nothing.
 */
async function workRun(tools: Tools, id: string): Promise<void> {
  const run = await LookUpRun.findByPk(id);
  const user = run && (await User.findByPk(run.askedBy));
  if (!run || !user || run.state !== 'running') return;
  const actor: Actor = {
    id: user.id,
    name: user.name,
    email: user.email,
    role: user.role,
    timeZone: user.timeZone,
  };
  const start = Math.max(0, run.done - AT_ONCE);
  const queue = run.subjects.slice(start);
  const progress: Progress = { done: start, filled: run.filled, suggested: run.suggested };
  let ground = await runInTransaction(tools, actor, loadPlanningData);
  let trouble: string | null = null;
  let isOver = false;
  const work = async (): Promise<void> => {
    for (let subject = queue.shift(); subject && !isOver; subject = queue.shift()) {
      const got = await enrich(tools, { subject, by: actor, runId: id }, ground);
      progress.done += 1;
      progress.filled += got.filled.length;
      progress.suggested += got.suggested.length;
      trouble = got.trouble ?? trouble;
      isOver ||= got.isShort;
      if (progress.done % MEASURE_EVERY === 0)
        ground = await runInTransaction(tools, actor, loadPlanningData);
      if (progress.done % SAY_EVERY === 0 && !isOver)
        isOver = (await note(tools, actor, id, progress, null)).state !== 'running';
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  await note(tools, actor, id, progress, { state: isOver ? 'stopped' : 'done', trouble });
}

export const runJob = defineJob({
  name: 'runLookUps',
  lane: 'outside',
  input: z.object({ id: Id }),
  run: (tools, { id }) => workRun(tools, id),
});
