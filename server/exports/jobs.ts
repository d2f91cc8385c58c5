import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import { ExportRow } from '../db/models/exports';
import { ProblemError } from '../http/problems';
import { defineJob } from '../jobs/job';
import { findActiveActor } from '../session/identify';
import { makeExport } from './make';

/** So long a file is kept. */
export const KEPT_MS = 24 * 3_600_000;

/** Makes one file. What it fails with is said there; what may pass is tried again by the queue, from where it was. */
export const makeExportJob = defineJob({
  name: 'makeExport',
  lane: 'long',
  input: z.object({ id: Id, by: Id }),
  async run(tools, { id, by }) {
    const fail = (trouble: string): Promise<unknown> =>
      ExportRow.update(
        { state: 'failed', trouble, finishedAt: tools.now() },
        { where: { id, state: 'running' } },
      );
    const actor = await findActiveActor(by);
    if (!actor) return void (await fail('Whoever asked for it has no account any more.'));
    try {
      await makeExport(tools, id, actor);
    } catch (error) {
      // A question that can no longer be asked: a field of it is gone.
      if (!(error instanceof ProblemError)) throw error;
      await fail(error.message);
    }
  },
});

export const tidyExportsJob = defineJob({
  name: 'tidyExports',
  lane: 'long',
  cron: '20 * * * *',
  input: z.unknown(),
  run: (tools) =>
    runInTransaction(tools, null, async ({ sequelize, tx, now }) => {
      await sequelize.query('DELETE FROM exports WHERE created_at < $until', {
        bind: { until: new Date(now().getTime() - KEPT_MS) },
        transaction: tx,
      });
    }),
});
