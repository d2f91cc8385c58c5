import { STEPS_OF, type BulkKind, type Named, type Step } from '@emporikon/core/bulk/types';
import { normaliseOwn, POINTS } from '@emporikon/core/fields/own';
import { heldAs } from '@emporikon/core/lifecycle/terms';
import { rightForStep, rightOn } from '@emporikon/core/rights/kinds';
import { QueryTypes } from 'sequelize';
import { requireColleague } from '../commands/colleague';
import type { Context } from '../commands/context';
import { requireRight } from '../commands/rights';
import { loadTerms, requireTerm } from '../commands/terms';
import { Stage } from '../db/models/deals';
import { CustomField } from '../db/models/fields';
import { mayChange, maySee } from '../fields/rights';
import { invalid } from '../http/problems';
import { usualChanceOf } from '../pipelines/stages';
import { visibleTo } from '../visibility/sight';

const CALLED = `SELECT id, name FROM users UNION ALL SELECT id, name FROM stages UNION ALL SELECT id, name FROM lists
  UNION ALL SELECT id, name FROM teams UNION ALL SELECT id, title FROM projects WHERE id = ANY ($ids::uuid[])`;

/** What steps name, as it stands now. */
export async function loadNamed(context: Context, steps: readonly Step[]): Promise<Named> {
  const { actor } = context;
  const projects = steps.flatMap((step) => (step.do === 'project' ? step.to : []));
  const rows = await context.sequelize.query<{ id: string; name: string }>(CALLED, {
    bind: { ids: projects },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  const fields = await CustomField.findAll({ transaction: context.tx });
  const labels = new Map(fields.map(({ key, label }) => [key, label]));
  const terms = await loadTerms(context);
  const stages = new Map<string, NonNullable<ReturnType<Named['stage']>>>();
  if (steps.some((step) => step.do === 'stage'))
    for (const stage of await Stage.findAll({ transaction: context.tx }))
      stages.set(stage.id, {
        kind: stage.kind,
        pipelineId: stage.pipelineId,
        probability: await usualChanceOf(context, stage),
      });
  return {
    called: (id) => names.get(id) ?? 'nobody',
    label: (key) => labels.get(key) ?? key,
    term: (key) => {
      const found = terms.find((term) => term.key === key);
      const held = found && heldAs(terms, found.list, key);
      return held ? { ...held, name: found.name } : null;
    },
    stage: (id) => stages.get(id) ?? null,
    decidesSight: (ownerId) => !actor || actor.role !== 'rep' || !ownerId || ownerId === actor.id,
    now: context.now().toISOString(),
  };
}

/**
 * What a bulk change takes. One that the program began on all there is, for a word of the organisation's, takes nothing more.
 * @throws 403
 */
export function requireBulkRights(
  context: Context,
  { kind, steps, pastSight = false }: { kind: BulkKind; steps: readonly Step[]; pastSight?: boolean },
): void {
  if (pastSight) return;
  requireRight(context, rightOn(kind, 'bulk'));
  for (const step of steps) {
    const right = rightForStep(step);
    if (right) requireRight(context, right);
  }
}

const wrong = (at: number, why: string, detail: string): Error =>
  invalid(detail, { fields: { [`steps.${at}`]: why } });

async function checkField(
  context: Context,
  kind: BulkKind,
  { key, to }: { key: string; to: string },
  at: number,
): Promise<void> {
  const field = await CustomField.findOne({
    where: { key, active: true, record: kind },
    transaction: context.tx,
  });
  if (!field || !maySee(context, field)) throw wrong(at, 'does not exist', 'There is no such field.');
  if (!mayChange(context, field))
    throw wrong(at, 'may not be changed by you', `You may not change ${field.label}.`);
  const result = normaliseOwn(field.kind, to, field.options);
  if ('why' in result)
    throw wrong(at, 'does not fit the field', `“${to}” does not fit: ${field.label} ${result.why}.`);
  if (result.value !== to) throw wrong(at, 'does not fit the field', `Write it as “${result.value}”.`);
  // What not everybody may see is not told in the history of many records either.
  if (field.isUnique || POINTS.has(field.kind) || field.seenBy !== 'everybody')
    throw wrong(at, 'cannot be the same for many', `${field.label} is set on one record at a time.`);
}

/** @throws 422 for a team or colleagues that are not there */
async function checkSight(
  context: Context,
  { to, only = [] }: Extract<Step, { do: 'visible' }>,
): Promise<void> {
  const [teamId] = only;
  await visibleTo(context, {
    visibility: to,
    ...(to === 'team' && teamId ? { teamId } : {}),
    ...(to === 'named' ? { peopleIds: [...only] } : {}),
  });
  if ((to === 'everybody' || to === 'owner') && only.length)
    throw invalid('Nobody has to be named for that.');
}

const EXISTS = {
  list: 'SELECT 1 FROM lists WHERE id = $id',
  project: 'SELECT 1 FROM projects WHERE id = $id',
} as const;
async function requireThere(
  context: Context,
  what: keyof typeof EXISTS,
  id: string,
  at: number,
): Promise<void> {
  const [found] = await context.sequelize.query(EXISTS[what], {
    bind: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!found) throw wrong(at, 'does not exist', `There is no such ${what}.`);
}

/** @throws 422 unless both are on one list and count as the same */
async function requireSame(
  context: Context,
  { from, to }: { from: string; to: string },
  at: number,
): Promise<void> {
  const terms = await loadTerms(context);
  const [one, other] = [from, to].map((key) => terms.find((term) => term.key === key));
  if (one && other && one.countsAs === other.countsAs) return;
  throw wrong(at, 'counts as something else', 'Choose a term that counts as the same.');
}

async function checkStep(context: Context, kind: BulkKind, step: Step, at: number): Promise<void> {
  if (!STEPS_OF[kind].includes(step.do))
    throw wrong(at, 'is not for these records', `“${step.do}” cannot be set on these records.`);
  switch (step.do) {
    case 'owner':
      if (step.to) await requireColleague(context, step.to);
      else if (kind === 'lead' || kind === 'deal') throw wrong(at, 'is missing', `A ${kind} needs an owner.`);
      return;
    case 'standing':
      await requireTerm(context, 'standing', step.to, { field: `steps.${at}` });
      return;
    case 'kind':
      await requireTerm(context, 'companyKind', step.to, { field: `steps.${at}` });
      return;
    case 'reterm':
      return requireSame(context, step, at);
    case 'status': {
      const { countsAs } = await requireTerm(context, 'leadStatus', step.to, { field: `steps.${at}` });
      if (countsAs === 'converted')
        throw wrong(at, 'is reached by conversion', 'Leads are converted one by one.');
      if (countsAs === 'parked' && !step.parkedUntil)
        throw wrong(at, 'needs a day', 'A parked lead needs the day it comes back.');
      if (countsAs === 'dropped' && !step.dropReason)
        throw wrong(at, 'needs a reason', 'A dropped lead needs a reason.');
      return;
    }
    case 'stage': {
      const stage = await Stage.findByPk(step.to, { transaction: context.tx });
      if (!stage) throw wrong(at, 'does not exist', 'There is no such stage.');
      if (stage.kind !== 'open')
        throw wrong(at, 'is no open stage', 'Deals are won and lost one by one. Choose an open stage.');
      return;
    }
    case 'field':
      return checkField(context, kind, step, at);
    case 'list':
    case 'unlist':
      return requireThere(context, 'list', step.to, at);
    case 'project':
      return requireThere(context, 'project', step.to, at);
    case 'visible':
      return checkSight(context, step);
    default:
      return;
  }
}

/** What of several steps cannot stand beside each other: one thing cannot be set twice. */
const subjectOf = (step: Step): string =>
  step.do === 'field'
    ? `field ${step.key}`
    : step.do === 'list' || step.do === 'unlist' || step.do === 'project'
      ? `${step.do === 'project' ? 'project' : 'list'} ${step.to}`
      : step.do;

/** @throws 422 for steps that these records cannot take, or that name what is not there */
export async function checkSteps(context: Context, kind: BulkKind, steps: readonly Step[]): Promise<void> {
  const erasing = steps.findIndex((step) => step.do === 'erase');
  if (erasing >= 0 && steps.length > 1)
    throw wrong(erasing, 'stands alone', 'Who is erased cannot be changed as well.');
  for (const [at, step] of steps.entries()) {
    if (steps.slice(0, at).some((one) => subjectOf(one) === subjectOf(step)))
      throw wrong(at, 'is there twice', `“${step.do}” is there twice.`);
    await checkStep(context, kind, step, at);
  }
}
