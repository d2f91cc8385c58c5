import { z } from 'zod';
import { Id } from '@emporikon/contract/common';
import { addJob, defineJob } from '../jobs/job';
import type { After, Cause } from '../commands/types';
import { publicEventsOf } from '../events/public';
import { runInTransaction, type Tools } from '../commands/context';
import { deriveFacts, enrich } from './enrich';
import { loadRules } from './planning/rules';

/**
 * What is done by itself for somebody new, seconds after they came in: what follows from what is known, and, where the
 * house wants it, the look-ups worth their price.
 */
async function lookUpNew(tools: Tools, personId: string, cause: Cause | null): Promise<void> {
  const caused = { ...tools, cause };
  const wish = { subject: { personId, companyId: null }, by: null, runId: null };
  const { automatic } = await runInTransaction(caused, null, loadRules);
  if (automatic && tools.outside.lookUps.length) await enrich(caused, wish);
  else await deriveFacts(caused, wish);
}

export const lookUpNewJob = defineJob({
  name: 'lookUpNew',
  lane: 'outside',
  input: z.object({
    personId: Id,
    cause: z.object({ eventId: Id, depth: z.int() }).nullable().default(null),
  }),
  run: (tools, { personId, cause }) => lookUpNew(tools, personId, cause),
});

/** Somebody with a new lead is looked up right after. */
export const lookUpAfter: After = {
  name: 'look up new',
  concerns: (event) => !event.undoes && publicEventsOf(event).some(({ type }) => type === 'lead.created'),
  async follow(context, event) {
    for (const { type, data } of publicEventsOf(event))
      if (type === 'lead.created')
        await addJob(
          context,
          lookUpNewJob,
          { personId: data.personId, cause: { eventId: event.id, depth: event.depth } },
          `look-up:${data.personId}`,
        );
  },
};
