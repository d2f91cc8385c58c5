import { reminderTimes } from '@emporikon/core/calendar/reminders';
import { QueryTypes, type Transaction } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import type { Tools, Within } from '../commands/types';
import { Task } from '../db/models/tasks';
import type { User } from '../db/models/users';
import { defineJob } from '../jobs/job';
import { writeNotices } from '../notices/write';

type Reminded = Pick<Task, 'id' | 'assigneeId' | 'dueAt' | 'allDay' | 'zone' | 'reminders' | 'doneAt'>;

/** Writes when somebody is to be reminded of a task, in place of what was to come; what is past already is left out. */
async function keepReminders(
  { sequelize }: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  task: Reminded,
  theirZone: string,
  now: Date,
): Promise<void> {
  const due = { dueAt: new Date(task.dueAt).toISOString(), allDay: task.allDay, zone: task.zone };
  const times = task.doneAt
    ? []
    : reminderTimes(due, task.reminders, theirZone)
        .filter((time) => time.toMillis() > now.getTime())
        .map((time) => time.toUTC().toISO());
  await sequelize.query(
    `WITH times AS (SELECT unnest(ARRAY[:times]::timestamptz[]) AS at),
          gone AS (DELETE FROM reminders WHERE task_id = :id AND told_at IS NULL AND NOT (user_id = :userId AND at IN (SELECT at FROM times)))
     INSERT INTO reminders (task_id, user_id, at) SELECT :id, :userId, at FROM times ON CONFLICT DO NOTHING`,
    { replacements: { id: task.id, userId: task.assigneeId, times }, transaction: tx },
  );
}

const zonesOf = async (
  { sequelize }: Pick<Tools, 'sequelize'>,
  tx: Transaction,
  ids: readonly string[],
): Promise<Map<string, string>> => {
  const rows = await sequelize.query<{ id: string; zone: string }>(
    'SELECT id, time_zone AS zone FROM users WHERE id = ANY ($ids::uuid[])',
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: tx },
  );
  return new Map(rows.map(({ id, zone }) => [id, zone]));
};

const WHEN = ['dueAt', 'allDay', 'zone', 'assigneeId', 'reminders', 'doneAt'] as const;

/** Keeps the reminders of every task that a change touches. */
export const followReminders: Within = async (tools, tx, event) => {
  const tasks = event.changes.flatMap(({ table, before, after }) => {
    if (table !== 'tasks' || !after) return [];
    const isSame = before && WHEN.every((key) => JSON.stringify(before[key]) === JSON.stringify(after[key]));
    return isSame ? [] : [after as unknown as Reminded];
  });
  if (!tasks.length) return;
  await pastSight({ sequelize: tools.sequelize, tx }, async () => {
    const zones = await zonesOf(
      tools,
      tx,
      tasks.map(({ assigneeId }) => assigneeId),
    );
    for (const task of tasks)
      await keepReminders(tools, tx, task, zones.get(task.assigneeId) ?? 'utc', event.at);
  });
};

/** Counts the reminders of somebody's tasks anew, on the clock they have now. */
export async function remindAnew(context: Context, user: User): Promise<void> {
  const tasks = await Task.findAll({ where: { assigneeId: user.id, doneAt: null }, transaction: context.tx });
  await pastSight(context, async () => {
    for (const task of tasks) await keepReminders(context, context.tx, task, user.timeZone, context.now());
  });
}

const AT_ONCE = 200;

/** Tells the reminders that are due, each once: the notice and the mark that it was told are one transaction. */
export async function tellReminders(tools: Tools): Promise<number> {
  let told = 0;
  for (let more = true; more;) {
    more = await runInTransaction(tools, null, async (context) => {
      const { tx, sequelize, now, newId } = context;
      const rows = await sequelize.query<{
        task_id: string;
        user_id: string;
        title: string;
        due: Date;
        person_id: string | null;
        company_id: string | null;
        lead_id: string | null;
        deal_id: string | null;
      }>(
        `WITH due AS (SELECT r.task_id, r.user_id, r.at FROM reminders r WHERE r.told_at IS NULL AND r.at <= $now
                       ORDER BY r.at LIMIT ${AT_ONCE} FOR UPDATE SKIP LOCKED),
              told AS (UPDATE reminders r SET told_at = $now FROM due d
                        WHERE (r.task_id, r.user_id, r.at) = (d.task_id, d.user_id, d.at) RETURNING r.task_id, r.user_id)
         SELECT DISTINCT ON (t.id, told.user_id) t.id AS task_id, told.user_id, t.title, t.due_at AS due, t.person_id, t.company_id, t.lead_id, t.deal_id
           FROM told JOIN tasks t ON t.id = told.task_id WHERE t.done_at IS NULL`,
        { bind: { now: now() }, type: QueryTypes.SELECT, transaction: tx },
      );
      await writeNotices(
        context,
        tx,
        { id: newId(), actorId: null, at: now() },
        rows.map((row) => ({
          userId: row.user_id,
          kind: 'reminder' as const,
          title: row.title,
          taskId: row.task_id,
          personId: row.person_id,
          companyId: row.company_id,
          leadId: row.lead_id,
          dealId: row.deal_id,
        })),
      );
      told += rows.length;
      return rows.length > 0;
    });
  }
  return told;
}

export const remindJob = defineJob({
  name: 'remind',
  lane: 'short',
  input: z.unknown(),
  cron: '* * * * *',
  run: async (tools) => void (await tellReminders(tools)),
});
