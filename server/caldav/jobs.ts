import { Id } from '@emporikon/contract/common';
import { Op, QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import type { After } from '../commands/types';
import { CaldavLink } from '../db/models/caldav';
import type { Change } from '../db/models/ledger';
import { addJob, defineJob } from '../jobs/job';
import { syncLink } from './sync';

export const syncJob = defineJob({
  name: 'syncCalendar',
  lane: 'outside',
  input: z.object({ id: Id }),
  run: (tools, { id }) => syncLink(tools, id),
});

export const askSync = (context: Context, id: string, runAt: Date | null = null): Promise<void> =>
  addJob(context, syncJob, { id }, `caldav:${id}`, runAt);

export const syncAllJob = defineJob({
  name: 'syncCalendars',
  lane: 'short',
  input: z.unknown(),
  cron: '* * * * *',
  async run(tools) {
    await runInTransaction(tools, null, async (context) => {
      const links = await CaldavLink.findAll({
        attributes: ['id'],
        where: { endedAt: null, state: { [Op.notIn]: ['refused', 'choose', 'forgetful'] } },
        transaction: context.tx,
      });
      for (const { id } of links) await askSync(context, id);
    });
  },
});

/** Several changes that follow each other go together. */
const SOON_MS = 2000;

/** Whose calendar a change may have to do with. */
function usersOf(changes: readonly Change[]): string[] {
  const ids = changes.flatMap(({ table, before, after }) => {
    const column = table === 'tasks' ? 'assigneeId' : table === 'task_people' ? 'userId' : null;
    return column ? [before?.[column], after?.[column]] : [];
  });
  return [...new Set(ids.filter((id): id is string => typeof id === 'string'))];
}

/** Calendars elsewhere get what was changed here within seconds. */
export const syncAfter: After = {
  name: 'sync calendars',
  concerns: ({ changes }) => usersOf(changes).length > 0,
  async follow(context, event) {
    const links = await context.sequelize.query<{ id: string }>(
      `SELECT id FROM caldav_links WHERE user_id = ANY ($users::uuid[]) AND ended_at IS NULL AND state IN ('new', 'current', 'down')`,
      { bind: { users: usersOf(event.changes) }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    for (const { id } of links) await askSync(context, id, new Date(context.now().getTime() + SOON_MS));
  },
};
