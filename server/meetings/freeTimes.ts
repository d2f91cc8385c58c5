import {
  findFreeTimes,
  inHalf,
  readFreeTimeWish,
  type Schedule,
  type Stretch,
} from '@emporikon/core/calendar/freeTimes';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { freeDaysFor } from '../calendar/free';
import { requireActor, type Context } from '../commands/context';
import { pastSight } from '../commands/sight';
import { invalid } from '../http/problems';
import { busyTimes } from './entries';

const MOST_PROPOSED = 9;

/**
 * When the actor and some colleagues are free at once.
 * @param wish in plain words: "next week, 45 min"
 * @param except a meeting that is to be moved
 * @throws 422 for a day that is none, or a colleague who is none
 */
export async function freeTimes(
  context: Context,
  others: readonly string[],
  wish: string,
  except: string | null,
): Promise<{ minutes: number; items: Stretch[] }> {
  const actor = requireActor(context);
  const ids = [...new Set([actor.id, ...others])];
  const users = await context.sequelize.query<{ id: string; zone: string; from: string; until: string }>(
    'SELECT id, time_zone AS zone, works_from AS "from", works_until AS until FROM users WHERE active AND id::text = ANY ($ids)',
    { bind: { ids }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (users.length !== ids.length)
    throw invalid('There is no such colleague.', { fields: { with: 'names nobody' } });
  const now = DateTime.fromJSDate(context.now(), { zone: actor.timeZone });
  const read = readFreeTimeWish(wish, now, await freeDaysFor(context, actor.id));
  if (!read)
    throw invalid('This names no day. Type one such as “next week, 45 min” or “Thursday afternoon”.', {
      fields: { wish: 'names no day' },
    });
  const within = { from: new Date(read.within.start), until: new Date(read.within.end) };
  const busy = (await pastSight(context, () => busyTimes(context, ids, within))).filter(
    ({ taskId }) => taskId !== except,
  );
  const schedules: Schedule[] = [];
  // Whoever asks comes first: the hours of the day are theirs.
  for (const user of [...users].sort((a, b) => Number(b.id === actor.id) - Number(a.id === actor.id)))
    schedules.push({
      ...{ zone: user.zone, from: user.from, until: user.until },
      free: await freeDaysFor(context, user.id),
      busy: busy
        .filter(({ userId }) => userId === user.id)
        .map(({ start, end }) => ({ start: start.toISOString(), end: end.toISOString() })),
    });
  const [mine, ...rest] = schedules;
  return {
    minutes: read.minutes,
    items: mine
      ? findFreeTimes([inHalf(mine, read.half), ...rest], read.within, read.minutes, MOST_PROPOSED)
      : [],
  };
}
