import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import { compactRows } from '../db/compact';
import { defineJob } from '../jobs/job';

/** Puts the kept counts of tags together, every hour. */
export const keepTagsJob = defineJob({
  name: 'keepTags',
  lane: 'short',
  input: z.unknown(),
  cron: '23 * * * *',
  run: async (tools) => {
    await runInTransaction(tools, null, (context) =>
      compactRows(context, 'tag_counts', ['kind', 'pipeline_id', 'tag', 'seen_by'], ['records']),
    );
  },
});
