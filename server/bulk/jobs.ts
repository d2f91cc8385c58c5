import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import type { Actor, Context, Tools } from '../commands/context';
import type { AnyJob } from '../commands/types';
import { BulkChangeRow } from '../db/models/bulk';
import { ProblemError } from '../http/problems';
import { addJob, defineJob, type Job } from '../jobs/job';
import { findActiveActor } from '../session/identify';
import { runBulk } from './run';
import { undoBulk } from './undo';

const input = z.object({ id: Id, by: Id });
type OneBulk = z.infer<typeof input>;
type Work = (tools: Tools, id: string, actor: Actor) => Promise<void>;

/** A job on one change of many, done as whoever asked for it. What it fails with is said there; the queue tries again. */
const onBulk = (name: string, lane: 'now' | 'long', work: Work): Job<OneBulk> & AnyJob =>
  defineJob({
    name,
    lane,
    input,
    async run(tools, { id, by }) {
      const actor = await findActiveActor(by);
      if (!actor) {
        await BulkChangeRow.update(
          { state: 'failed', trouble: 'Whoever began this has no account any more.' },
          { where: { id } },
        );
        return;
      }
      try {
        await work(tools, id, actor);
      } catch (error) {
        if (error instanceof ProblemError && error.problem.status === 403) {
          await BulkChangeRow.update({ state: 'failed', trouble: error.message }, { where: { id } });
          return;
        }
        const trouble = error instanceof Error ? error.message.slice(0, 300) : String(error);
        await BulkChangeRow.update({ trouble }, { where: { id } });
        throw error;
      }
    },
  });

/** So few are done while somebody waits; more of them hold up nobody else. */
const FEW = 2000;
const run = { now: onBulk('runFew', 'now', runBulk), long: onBulk('runMany', 'long', runBulk) };
const undo = { now: onBulk('undoFew', 'now', undoBulk), long: onBulk('undoMany', 'long', undoBulk) };
export const bulkJobs = [run.now, run.long, undo.now, undo.long];

/** Asks for the work on a change, in the transaction of whoever asks. */
export async function addBulkJob(
  context: Context,
  what: 'run' | 'undo',
  { id, total }: Pick<BulkChangeRow, 'id' | 'total'>,
  by: string,
): Promise<void> {
  const job = (what === 'run' ? run : undo)[total <= FEW ? 'now' : 'long'];
  await addJob(context, job, { id, by }, `${what}:${id}`);
}
