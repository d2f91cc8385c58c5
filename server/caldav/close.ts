import { Task } from '../db/models/tasks';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import type { CaldavLink } from '../db/models/caldav';
import { endsAtOf } from '../meetings/facts';

const MOST_AT_ONCE = 200;

/** What was in the other calendar only, and with nobody we know, is over once its time is: nobody asks what came of a dentist. */
export async function closePast(tools: Tools, actor: Actor, link: CaldavLink): Promise<void> {
  await runInTransaction(tools, actor, async (context) => {
    const rows = await context.sequelize.query<{ id: string }>(
      `SELECT DISTINCT t.id FROM caldav_objects o JOIN caldav_events e ON e.object_id = o.id JOIN tasks t ON t.id = e.task_id
        WHERE o.link_id = $link AND NOT e.is_ours AND t.assignee_id = $me AND t.done_at IS NULL AND t.due_at < $now AND t.person_id IS NULL
          AND t.company_id IS NULL AND t.deal_id IS NULL AND NOT EXISTS (SELECT 1 FROM task_people p WHERE p.task_id = t.id AND p.person_id IS NOT NULL)
        LIMIT ${MOST_AT_ONCE}`,
      {
        bind: { link: link.id, me: actor.id, now: context.now() },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    for (const { id } of rows) {
      const task = await Task.findByPk(id, { transaction: context.tx, lock: true });
      const ends = task && endsAtOf(task);
      if (!task || !ends || ends > context.now()) continue;
      await context.write.update(task, { doneAt: ends, doneBy: actor.id });
    }
    await context.write.event('close past', 'Appointments of another calendar that are over', actor.id);
  });
}
