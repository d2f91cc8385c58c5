import { requireActor } from '../commands/context';
import { pastSight } from '../commands/sight';
import type { Handlers } from '../http/mount';
import { invalid } from '../http/problems';
import { loadTask } from '../tasks/change';
import { requireTask } from '../tasks/queries';
import { moveOccurrence, omitOccurrence } from '../tasks/series';
import { busyTimes, calendarOf, calendarUsers } from './entries';
import { endFeed, feedOf, makeFeed } from './feed';
import { freeTimes } from './freeTimes';
import { enterOutcome } from './held';
import { answerFor } from './people';

const LONGEST_MS = 62 * 86_400_000;

export const meetingHandlers: Handlers = {
  'GET /api/calendar': async ({ query, context }) => {
    const within = { from: new Date(query.from), until: new Date(query.until) };
    const lasts = within.until.getTime() - within.from.getTime();
    if (lasts <= 0 || lasts > LONGEST_MS)
      throw invalid('A calendar is shown for up to 62 days.', { fields: { until: 'is not within 62 days' } });
    const users = await calendarUsers(context, query.who);
    const items = await calendarOf(
      context,
      users.map(({ id }) => id),
      within,
    );
    const me = requireActor(context).id;
    const others = users.filter(({ id }) => id !== me);
    const shown = new Set(items.map(({ taskId }) => taskId));
    const busy = others.length
      ? await pastSight(context, () =>
          busyTimes(
            context,
            others.map(({ id }) => id),
            within,
          ),
        )
      : [];
    return {
      items,
      busy: busy.flatMap(({ taskId, userId, start, end }) => {
        const who = others.find(({ id }) => id === userId);
        return who && !shown.has(taskId) ? [{ who, start: start.toISOString(), end: end.toISOString() }] : [];
      }),
    };
  },
  'GET /api/calendar/free-times': ({ query, context }) =>
    freeTimes(context, query.with?.split(',') ?? [], query.wish, query.except ?? null),
  'POST /api/tasks/:id/occurrences': async ({ params, body, context }) => {
    const { id, eventId } = await moveOccurrence(context, await loadTask(context, params.id), body);
    return { eventId, task: await requireTask(context, id) };
  },
  'DELETE /api/tasks/:id/occurrences/:at': async ({ params, context }) =>
    omitOccurrence(context, await loadTask(context, params.id), params.at),
  'POST /api/tasks/:id/answer': async ({ params, body, context }) => ({
    eventId: await answerFor(context, await loadTask(context, params.id), body.answer),
  }),
  'POST /api/tasks/:id/held': ({ params, body, context }) =>
    enterOutcome(context, params.id, body.words, body.outcome ?? 'spoke', body.leaveOut),
  'GET /api/calendar/feed': ({ context }) => feedOf(context),
  'POST /api/calendar/feed': ({ context }) => makeFeed(context),
  'DELETE /api/calendar/feed': ({ context }) => endFeed(context),
};
