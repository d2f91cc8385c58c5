import type { After } from '../commands/types';
import { defineJob } from '../jobs/job';
import { PLACE, placeSoon } from './due';
import { placeDue } from './place';
import { loadTowns } from './towns';

/** Places what is due: right after an event that may have moved something, and by the clock for what no event speaks of. */
export const placeJob = defineJob({
  ...PLACE,
  lane: 'long',
  cron: '*/10 * * * *',

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
  follow: placeSoon,
};
