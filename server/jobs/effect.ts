import { Id } from '@emporikon/contract/common';
import { backOff } from '@emporikon/core/lookups/breaker';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import type { AnyJob, Context, Lane, Tools } from '../commands/types';
import { OutboxRow } from '../db/models/outbox';
import { NotSent } from '../outside/notSent';
import { addJob, defineJob, type Job } from './job';

/** What came of an effect in the end. */
export type Outcome<Result> =
  { state: 'sent'; result: Result } | { state: 'failed' | 'expired' | 'unsure'; trouble: string };

/**
 * Something done outside the house: a mail, a call. A command only writes that it is wanted (`requestEffect`); it is
 * carried out after the commit by the queue, and never twice unless somebody asks for it.
 */
export interface Effect<Input, Result> {
  /** Stands in the queue and the outbox; never renamed. */
  name: string;
  lane: Lane;
  input: z.ZodType<Input>;
  /** After this long it is not wanted any more, ms. */
  lastsMs: number;
  /** The first and the longest wait between two tries, ms. */
  waits: { first: number; longest: number };
  /** Does it, outside any transaction. @throws NotSent where nothing went out for sure; anything else leaves that open */
  send: (tools: Tools, input: Input, row: { id: string }) => Promise<Result>;
  /** Writes what came of it, in a transaction. @returns what is said of it in the history */
  settle: (context: Context, input: Input, outcome: Outcome<Result>) => Promise<string>;
  /** Prepares the records for another try that somebody asks for. @throws where they may not, or it makes no sense any more */
  prepareRepeat: (context: Context, input: Input) => Promise<void>;
}

/** The event in which the outcome of an effect is kept; what went out cannot be called back. */
export const CARRIED_OUT = 'carry out';

const RowId = z.object({ id: Id });
const keyOf = (id: string): string => `outbox:${id}`;

/** Takes a row for one try. @returns null where there is nothing to try; what ended it where it is over already */
async function claimTry(
  tools: Tools,
  id: string,
): Promise<{ row: OutboxRow; over: 'unsure' | 'expired' | null } | null> {
  return runInTransaction(tools, null, async ({ tx, now }) => {
    const row = await OutboxRow.findByPk(id, { transaction: tx, lock: true });
    if (!row || (row.state !== 'waiting' && row.state !== 'sending')) return null;
    // Whoever tried before did not come back to say how it ended.
    if (row.state === 'sending') return { row, over: 'unsure' };
    if (row.deadline <= now()) return { row, over: 'expired' };
    await row.update({ state: 'sending', tries: row.tries + 1, nextTryAt: null }, { transaction: tx });
    return { row, over: null };
  });
}

async function trySending<Input, Result>(
  tools: Tools,
  effect: Effect<Input, Result>,
  row: OutboxRow,
): Promise<Outcome<Result> | NotSent> {
  const input = effect.input.parse(row.payload);
  try {
    return { state: 'sent', result: await effect.send(tools, input, row) };
  } catch (error) {
    if (error instanceof NotSent) return error.isFinal ? { state: 'failed', trouble: error.message } : error;
    return { state: 'unsure', trouble: error instanceof Error ? error.message : String(error) };
  }
}

/** Waits for the next try, or gives up when that would come too late. @returns whether it waits */
async function waitForNext(
  context: Context,
  effect: Pick<DefinedEffect<never, never>, 'waits' | 'job'>,
  row: OutboxRow,
  trouble: string,
): Promise<boolean> {
  const wait = backOff(row.tries, Math.random(), null, effect.waits);
  const nextTryAt = new Date(context.now().getTime() + wait);
  if (nextTryAt >= row.deadline) return false;
  await row.update({ state: 'waiting', trouble, nextTryAt }, { transaction: context.tx });
  await addJob(context, effect.job, { id: row.id }, keyOf(row.id), nextTryAt);
  return true;
}

const LOST = 'the try was cut off, and nobody can tell whether it went out';

/** An effect with the job that carries it out. */
export interface DefinedEffect<Input, Result> extends Effect<Input, Result> {
  job: Job<z.infer<typeof RowId>> & AnyJob;
  /** Asks for another try of a row that was given up; the row is locked. */
  repeat: (context: Context, row: OutboxRow) => Promise<void>;
}

export function defineEffect<Input, Result>(effect: Effect<Input, Result>): DefinedEffect<Input, Result> {
  const carryOut = async (tools: Tools, { id }: { id: string }): Promise<void> => {
    const claimed = await claimTry(tools, id);
    if (!claimed) return;
    const ended: Outcome<Result> | NotSent =
      claimed.over === null
        ? await trySending(tools, effect, claimed.row)
        : {
            state: claimed.over,
            trouble: claimed.over === 'unsure' ? LOST : (claimed.row.trouble ?? 'too late'),
          };
    await runInTransaction(tools, null, async (context) => {
      const row = await OutboxRow.findByPk(id, { transaction: context.tx, lock: true });
      if (!row) return;
      if (ended instanceof NotSent && (await waitForNext(context, defined, row, ended.message))) return;
      const outcome: Outcome<Result> =
        ended instanceof NotSent ? { state: 'expired', trouble: ended.message } : ended;
      await context.write.update(row, {
        state: outcome.state,
        trouble: outcome.state === 'sent' ? null : outcome.trouble,
        nextTryAt: null,
        endedAt: context.now(),
      });
      const label = await effect.settle(context, effect.input.parse(row.payload), outcome);
      await context.write.event(CARRIED_OUT, label, null);
    });
  };
  const job = defineJob({ name: effect.name, lane: effect.lane, input: RowId, run: carryOut });
  const defined: DefinedEffect<Input, Result> = {
    ...effect,
    job,
    async repeat(context, row) {
      await effect.prepareRepeat(context, effect.input.parse(row.payload));
      await context.write.update(row, {
        ...{ state: 'waiting', trouble: null, endedAt: null, nextTryAt: null, tries: 0 },
        deadline: new Date(context.now().getTime() + effect.lastsMs),
      });
      await addJob(context, job, { id: row.id }, keyOf(row.id));
    },
  };
  return defined;
}

/**
 * Asks for an effect beside a change, in its transaction: the change can be taken back all the same.
 * @param runAt not before; at once when null
 */
export async function queueEffect<Input, Result>(
  context: Pick<Context, 'sequelize' | 'tx' | 'newId' | 'now'>,
  effect: DefinedEffect<Input, Result>,
  payload: Input,
  about: { table: string; id: string },
  runAt: Date | null,
): Promise<void> {
  const now = context.now();
  const row = await OutboxRow.create(
    {
      id: context.newId(),
      kind: effect.name,
      payload,
      aboutTable: about.table,
      aboutId: about.id,
      createdBy: null,
      createdAt: now,
      deadline: new Date((runAt ?? now).getTime() + effect.lastsMs),
    },
    { transaction: context.tx },
  );
  await addJob(context, effect.job, { id: row.id }, keyOf(row.id), runAt);
}

/**
 * Asks for an effect, in the transaction of the command that wants it.
 * @param about the row where it was caused; its state is shown there
 * @param runAt not before; at once when null
 */
export async function requestEffect<Input, Result>(
  context: Context,
  effect: DefinedEffect<Input, Result>,
  payload: Input,
  about: { table: string; id: string },
  runAt: Date | null = null,
): Promise<void> {
  const row = await context.write.insert(OutboxRow, {
    id: context.newId(),
    kind: effect.name,
    payload,
    aboutTable: about.table,
    aboutId: about.id,
    createdBy: context.actor?.id ?? null,
    createdAt: context.now(),
    deadline: new Date((runAt ?? context.now()).getTime() + effect.lastsMs),
    ...(runAt ? { nextTryAt: runAt } : {}),
  });
  await addJob(context, effect.job, { id: row.id }, keyOf(row.id), runAt);
}
