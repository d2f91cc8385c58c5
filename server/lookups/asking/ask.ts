import { backOff } from '@emporikon/core/lookups/breaker';
import { fold } from '@emporikon/core/people/text';
import { setTimeout as sleep } from 'node:timers/promises';
import { Op, type Transaction } from 'sequelize';
import { enterAs } from '../../commands/sight';
import type { Tools } from '../../commands/context';
import { LookUp, type LookUpSubject } from '../../db/models/lookUps';
import { SourceTrouble, type Answer, type LookUpSource, type Question } from '../../outside/lookups/source';
import { reserveTurn, noteOutcome, pauseReason } from './pace';
import { releaseBudget, monthOf, reserveBudget } from '../asking/budget';
import { loadRules, sourceRows } from '../planning/rules';

/** For whom and about whom a source is asked. */
export interface Asking extends LookUpSubject {
  by: string | null;
  runId: string | null;
}

export type Asked =
  | { outcome: 'answered'; lookUp: LookUp; price: number }
  | { outcome: 'allowance' | 'my limit' | 'failed'; because: string };

const TIMEOUT_MS = 4000;
const MOST_TRIES = 3;
const LOST_AFTER_MS = 60_000;
const POLL_MS = 120;

/** Questions that mean the same have the same key. */
const keyOf = (question: Question): string =>
  Object.entries(question)
    .map(([name, value]) => `${name}=${fold(value)}`)
    .sort()
    .join('&');

type Claimed =
  | { state: 'kept'; lookUp: LookUp }
  | { state: 'mine'; lookUp: LookUp }
  | { state: 'waits' }
  | { state: 'allowance' }
  | { state: 'my limit' }
  | { state: 'rests'; because: string };

/** A question whose asker died is given up after a while, and its price given back. */
async function expireLostQuestion(
  database: Pick<Tools, 'sequelize'> & { tx: Transaction },
  source: LookUpSource,
  questionKey: string,
  now: Date,
): Promise<boolean> {
  const asked = await LookUp.findOne({
    where: { source: source.key, questionKey, state: 'asking' },
    transaction: database.tx,
    lock: true,
  });
  if (!asked || now.getTime() - asked.askedAt.getTime() <= LOST_AFTER_MS) return false;
  await releaseBudget(database, asked.month, asked.askedBy, asked.price);
  await asked.update(
    { state: 'failed', price: 0, trouble: 'was lost on the way', answeredAt: now },
    { transaction: database.tx },
  );
  return true;
}

/** Finds a kept answer, or takes the question as ours with its price set aside, or finds that somebody asks it now. */
async function claim(
  tools: Tools,
  source: LookUpSource,
  question: Question,
  asking: Asking,
  rests: string | null,
): Promise<Claimed> {
  const tx = await tools.sequelize.transaction();
  const database = { ...tools, tx };
  await enterAs(tools, tx, null);
  const end = async (result: Claimed, keep: boolean): Promise<Claimed> => {
    await (keep ? tx.commit() : tx.rollback());
    return result;
  };
  try {
    await sourceRows(database);
    const rules = await loadRules(database);
    const [questionKey, now] = [keyOf(question), tools.now()];
    const findKept = (): Promise<LookUp | null> =>
      LookUp.findOne({
        where: {
          source: source.key,
          questionKey,
          state: ['found', 'nothing'],
          answeredAt: { [Op.gt]: new Date(now.getTime() - rules.keepDays * 86_400_000) },
        },
        order: [['answeredAt', 'DESC']],
        transaction: tx,
      });
    const kept = await findKept();
    if (kept) return await end({ state: 'kept', lookUp: kept }, true);
    if (rests) return await end({ state: 'rests', because: rests }, true);
    const id = tools.newId();
    const month = monthOf(now);
    const [rows] = await tools.sequelize.query(
      `INSERT INTO look_ups (id, source, question_key, question, state, price, month, asked_by, person_id, company_id, run_id, asked_at)
       VALUES (:id, :source, :questionKey, :question::jsonb, 'asking', :price, :month, :by, :personId, :companyId, :runId, :now)
       ON CONFLICT (source, question_key) WHERE state = 'asking' DO NOTHING RETURNING id`,
      {
        replacements: {
          ...asking,
          id,
          source: source.key,
          questionKey,
          question: JSON.stringify(question),
          price: source.price,
          month,
          now,
        },
        transaction: tx,
      },
    );
    if (!rows.length)
      return await end({ state: 'waits' }, await expireLostQuestion(database, source, questionKey, now));
    // Somebody's answer may have come between the first look and the claim: it is seen now.
    const since = await findKept();
    if (since) return await end({ state: 'kept', lookUp: since }, false);
    const short = await reserveBudget(database, rules, month, asking.by, source.price);
    if (short) return await end({ state: short === 'house' ? 'allowance' : 'my limit' }, false);
    const lookUp = await LookUp.findByPk(id, { transaction: tx, rejectOnEmpty: true });
    return await end({ state: 'mine', lookUp }, true);
  } catch (error) {
    await tx.rollback().catch(() => undefined);
    throw error;
  }
}

const NO_USE_TRYING = new Set(['spent', 'refused', 'nonsense']);

/** Asks, again after a while where that may help, each time in its turn; the last trouble where nothing did. */
async function askWithRetries(
  tools: Tools,
  source: LookUpSource,
  question: Question,
): Promise<{ answer: Answer | SourceTrouble; tries: number }> {
  for (let tries = 1; ; tries++) {
    await sleep(await reserveTurn(tools, source));
    try {
      const answer = await source.ask(question, AbortSignal.timeout(TIMEOUT_MS));
      await noteOutcome(tools, source, null);
      return { answer, tries };
    } catch (error) {
      const trouble =
        error instanceof SourceTrouble ? error : new SourceTrouble('nonsense', 'answers what cannot be read');
      if (trouble.kind !== 'busy') await noteOutcome(tools, source, trouble);
      if (tries >= MOST_TRIES || NO_USE_TRYING.has(trouble.kind)) return { answer: trouble, tries };
      await sleep(backOff(tries, Math.random(), trouble.retryAfterMs));
    }
  }
}

async function settleLookUp(
  tools: Tools,
  source: LookUpSource,
  lookUp: LookUp,
  got: { answer: Answer | SourceTrouble; tries: number },
): Promise<LookUp> {
  return tools.sequelize.transaction(async (tx) => {
    await enterAs(tools, tx, null);
    const trouble = got.answer instanceof SourceTrouble ? got.answer.message : null;
    const answer = got.answer instanceof SourceTrouble ? null : got.answer;
    const charged = answer !== null && (source.charges === 'answers' || answer.found);
    const aside = lookUp.price;
    const price = charged ? aside : 0;
    await lookUp.update(
      {
        state: answer === null ? 'failed' : answer.found ? 'found' : 'nothing',
        answer: answer?.found ? { facts: answer.facts, name: answer.name, domain: answer.domain } : null,
        trouble,
        tries: got.tries,
        price,
        answeredAt: tools.now(),
      },
      { transaction: tx },
    );
    await releaseBudget({ ...tools, tx }, lookUp.month, lookUp.askedBy, aside - price);
    return lookUp;
  });
}

/**
 * Asks one source one question: a kept answer is used while it is fresh, a question that is being asked is waited for,
 * and otherwise it goes out once its price is set aside. What is not charged is given back.
 */
export async function askSource(
  tools: Tools,
  source: LookUpSource,
  question: Question,
  asking: Asking,
): Promise<Asked> {
  for (;;) {
    const claimed = await claim(tools, source, question, asking, await pauseReason(tools, source));
    if (claimed.state === 'kept') return { outcome: 'answered', lookUp: claimed.lookUp, price: 0 };
    if (claimed.state === 'allowance')
      return { outcome: 'allowance', because: 'The allowance of this month is used up.' };
    if (claimed.state === 'my limit')
      return { outcome: 'my limit', because: 'Your share of this month’s allowance is used up.' };
    if (claimed.state === 'rests') return { outcome: 'failed', because: claimed.because };
    if (claimed.state === 'waits') {
      await sleep(POLL_MS);
      continue;
    }
    const got = await askWithRetries(tools, source, question);
    const lookUp = await settleLookUp(tools, source, claimed.lookUp, got);
    return got.answer instanceof SourceTrouble
      ? { outcome: 'failed', because: `${source.label} ${got.answer.message}.` }
      : { outcome: 'answered', lookUp, price: lookUp.price };
  }
}
