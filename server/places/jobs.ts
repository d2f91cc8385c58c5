import { z } from 'zod';
import type { After } from '../commands/types';
import { addJob, defineJob } from '../jobs/job';
import { placeDue } from './place';
import { loadTowns } from './towns';

/** Places what is due: right after an event that may have moved something, and by the clock for what no event speaks of. */
export const placeJob = defineJob({
  name: 'placeRecords',
  lane: 'long',
  cron: '*/10 * * * *',
  input: z.unknown(),
  async run(tools) {
    await loadTowns(tools);
    await placeDue(tools);
  },
});

const MOVES: Readonly<Record<string, readonly string[]>> = {
  people: ['address', 'addressParts', 'companyId'],
  companies: ['address', 'country'],
};

/** What an event moved is placed right after it. */
export const placeAfter: After = {
  name: 'places',
  concerns: ({ changes }) =>
    changes.some(({ table, before, after }) =>
      (MOVES[table] ?? []).some(
        (column) => JSON.stringify(before?.[column] ?? null) !== JSON.stringify(after?.[column] ?? null),
      ),
    ),
  follow: (context) => addJob(context, placeJob, {}, 'place-records'),
};
