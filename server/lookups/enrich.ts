import type { PlannedStep } from '@emporikon/core/lookups/plan';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import type { LookUpSubject } from '../db/models/lookUps';
import { Company, Person } from '../db/models/people';
import { applyAnswer, type Applied } from './applying/apply';
import { askSource } from './asking/ask';
import { derive } from './applying/derive';
import { knownOf, loadLookUpRecords, type LookUpRecord } from './planning/known';
import { loadPlanningData, planFor, type PlanningData } from './planning/plan';

export interface Enriched extends Applied {
  /** What was asked, in order, with its price, minor units. */
  asked: { source: string; found: boolean; price: number }[];
  /** Why it stopped before enough was known; null when nothing stood in the way. */
  trouble: string | null;
  /** Whether an allowance was used up. */
  isShort: boolean;
}

/** Who is looked up, and for whom. */
export interface LookUpRequest {
  subject: LookUpSubject;
  by: Actor | null;
  runId: string | null;
}

const nameOf = (looked: LookUpRecord): string => looked.person?.fullName ?? looked.company?.name ?? '';

/** The records as they are now, locked, so that two answers do not settle one field at once. */
async function lockLookUpRecord(context: Context, subject: LookUpSubject): Promise<LookUpRecord | null> {
  const options = { transaction: context.tx, lock: true };
  if (subject.personId) await Person.findByPk(subject.personId, options);
  if (subject.companyId) await Company.findByPk(subject.companyId, options);
  return (await loadLookUpRecords(context, [subject]))[0] ?? null;
}

/** Fills in what follows from what is known, for nothing. @returns who is looked up then; null when they are gone */
export async function deriveFacts(
  tools: Tools,
  { subject, by }: LookUpRequest,
): Promise<LookUpSubject | null> {
  return runInTransaction(tools, by, async (context) => {
    const looked = await lockLookUpRecord(context, subject);
    if (!looked) return null;
    await context.write.asConsequence(() => derive(context, looked));
    await context.write.event('look up', `Worked out where ${nameOf(looked)} is`, by?.id ?? null);
    return looked.subject;
  });
}

/** The first question of the plan that can be asked as things stand. */
async function nextStep(
  tools: Tools,
  { subject, by }: LookUpRequest,
  ground: PlanningData,
  asked: ReadonlySet<string>,
): Promise<{ step: PlannedStep; looked: LookUpRecord } | null> {
  return runInTransaction(tools, by, async (context) => {
    const [looked] = await loadLookUpRecords(context, [subject]);
    if (!looked) return null;
    const step = planFor(looked, ground, asked).find((one) => one.after === null);
    return step ? { step, looked } : null;
  });
}

async function apply(
  tools: Tools,
  wish: LookUpRequest,
  ground: PlanningData,
  lookUp: Parameters<typeof applyAnswer>[2],
): Promise<Applied> {
  return runInTransaction(tools, wish.by, async (context) => {
    const looked = await lockLookUpRecord(context, wish.subject);
    if (!looked) return { filled: [], suggested: [] };
    // Who may be looked up was decided when it was asked for; an answer about a person says something of their company too.
    const applied = await context.write.asConsequence(() => applyAnswer(context, looked, lookUp, ground));
    const words = [...applied.filled, ...applied.suggested].join(', ').toLowerCase();
    await context.write.event(
      'look up',
      `Looked up ${nameOf(looked)}: ${words || 'nothing new'}`,
      wish.by?.id ?? null,
    );
    return applied;
  });
}

/**
 * Asks the sources about somebody, the one that gains most for its price first, and again after each answer, until
 * enough is known, nothing more is worth its price, or the allowance is used up.
 * @param ground kept between the many of one run; measured anew when left out
 */
export async function enrich(tools: Tools, wish: LookUpRequest, given?: PlanningData): Promise<Enriched> {
  const enriched: Enriched = { asked: [], filled: [], suggested: [], trouble: null, isShort: false };
  const subject = await deriveFacts(tools, wish);
  if (!subject) return enriched;
  const now = { ...wish, subject };
  const ground = given ?? (await runInTransaction(tools, wish.by, loadPlanningData));
  const asked = new Set<string>();
  for (;;) {
    const next = await nextStep(tools, now, ground, asked);
    if (!next) return enriched;
    asked.add(next.step.source);
    const source = ground.sources.find((source) => source.key === next.step.source);
    const question = source?.question(knownOf(next.looked));
    if (!source || !question) continue;
    const answer = await askSource(tools, source, question, {
      ...subject,
      by: wish.by?.id ?? null,
      runId: wish.runId,
    });
    if (answer.outcome !== 'answered') {
      enriched.trouble = answer.because;
      if (answer.outcome === 'failed') continue;
      return { ...enriched, isShort: true };
    }
    enriched.asked.push({ source: source.key, found: answer.lookUp.state === 'found', price: answer.price });
    const { filled, suggested } = await apply(tools, now, ground, answer.lookUp);
    enriched.filled.push(...filled);
    enriched.suggested.push(...suggested);
  }
}
