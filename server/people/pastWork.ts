import { DateTime } from 'luxon';
import type { Completes } from '../commands/types';
import { Employment } from '../db/models/relations';

/**
 * Whoever leaves a company for another, by whatever command, worked for the first: it is kept, in the same change, so
 * that taking the change back takes it back too. Merging is no change of work.
 */
export const keepPastWork: Completes = async (tools, write, { command, changes, undoes }) => {
  if (undoes || command.includes('merge')) return;
  const moved = changes.filter(
    ({ table, before, after }) =>
      table === 'people' && before?.companyId && after && before.companyId !== after.companyId,
  );
  for (const { id, before } of moved)
    await write.insert(Employment, {
      id: tools.newId(),
      personId: id,
      companyId: String(before?.companyId),
      jobTitle: typeof before?.jobTitle === 'string' ? before.jobTitle : '',
      fromDay: null,
      untilDay: DateTime.fromJSDate(tools.now()).toISODate(),
    });
};
