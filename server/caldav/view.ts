import type { CalendarClash, CalendarLink } from '@emporikon/contract/caldav';
import { differences } from '@emporikon/core/calendar/mergeFacts';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { CaldavEvent, type CaldavLink } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { factsOfTask } from './facts';

const MOST_CLASHES = 50;

/** What a meeting says here and there, where somebody has to decide. */
function clashOf(event: CaldavEvent, task: Task): CalendarClash | null {
  if (!event.clash) return null;
  const { isGone, ...there } = event.clash;
  const here = factsOfTask(task, event.base);
  return {
    taskId: task.id,
    title: task.title,
    here,
    there: isGone ? null : there,
    parts: isGone ? [] : differences(here, there),
  };
}

/** The same of one task, in the calendar of whoever asks. */
export async function clashOfTask(context: Context, task: Task): Promise<CalendarClash | null> {
  const [row] = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM caldav_events e JOIN caldav_objects o ON o.id = e.object_id JOIN caldav_links l ON l.id = o.link_id
      WHERE e.task_id = $task AND e.clash IS NOT NULL AND l.user_id = $me AND l.ended_at IS NULL LIMIT 1`,
    {
      bind: { task: task.id, me: context.actor?.id ?? null },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const event = row && (await CaldavEvent.findByPk(row.id, { transaction: context.tx }));
  return event ? clashOf(event, task) : null;
}

async function clashesOf(context: Context, link: CaldavLink): Promise<CalendarClash[]> {
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM caldav_events e JOIN caldav_objects o ON o.id = e.object_id WHERE o.link_id = $link AND e.clash IS NOT NULL LIMIT ${MOST_CLASHES}`,
    { bind: { link: link.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const events = await CaldavEvent.findAll({
    where: { id: rows.map(({ id }) => id) },
    transaction: context.tx,
  });
  const tasks = await Task.findAll({
    where: { id: events.map(({ taskId }) => taskId) },
    transaction: context.tx,
  });
  return events.flatMap((event) => {
    const task = tasks.find(({ id }) => id === event.taskId);
    return (task && clashOf(event, task)) ?? [];
  });
}

async function countsOf(context: Context, link: CaldavLink): Promise<{ events: number; cards: number }> {
  const [counts] = await context.sequelize.query<{ events: number; cards: number }>(
    `SELECT (SELECT count(*)::int FROM caldav_events e JOIN caldav_objects o ON o.id = e.object_id WHERE o.link_id = $link) AS events,
            (SELECT count(*)::int FROM carddav_cards WHERE link_id = $link) AS cards`,
    { bind: { link: link.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return counts ?? { events: 0, cards: 0 };
}

export async function asView(context: Context, link: CaldavLink): Promise<CalendarLink> {
  return {
    ...{ id: link.id, version: link.version ?? 1, url: link.url, username: link.username },
    ...{ state: link.state ?? 'new', trouble: link.trouble ?? '' },
    syncedAt: link.syncedAt?.toISOString() ?? null,
    calendars: link.calendars ?? [],
    calendarUrl: link.calendarUrl ?? null,
    addressBooks: link.addressBooks ?? [],
    addressBookUrl: link.addressBookUrl ?? null,
    ...(await countsOf(context, link)),
    clashes: await clashesOf(context, link),
  };
}
