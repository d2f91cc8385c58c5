import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import { compactRows } from '../db/compact';
import { defineJob } from '../jobs/job';

/** Puts the kept sums of deals together, every hour. */
export const keepSumsJob = defineJob({
  name: 'keepSums',
  lane: 'short',
  input: z.unknown(),
  cron: '17 * * * *',
  run: async (tools) => {
    await runInTransaction(tools, null, (context) =>
      compactRows(
        context,
        'deal_sums',
        ['stage_id', 'owner_id', 'currency', 'seen_by'],
        ['deals', 'plain', 'weighted'],
      ),
    );
  },
});
