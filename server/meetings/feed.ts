import { randomBytes } from 'node:crypto';
import rateLimit from '@fastify/rate-limit';
import { writeCalendar, type CalendarEvent } from '@emporikon/core/formats/icalendar';
import type { CalendarItem } from '@emporikon/contract/meetings';
import type { FastifyInstance } from 'fastify';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { requireActor, runInTransaction, type Context, type Tools } from '../commands/context';
import { User } from '../db/models/users';
import { actorOf } from '../session/identify';
import { hashToken } from '../session/secrets';
import { calendarOf } from './entries';
import { uidOf } from './facts';

const [DAYS_BACK, DAYS_ON] = [90, 366];
const MOST_READS_A_MINUTE = 30;
const TOKEN = /^[A-Za-z0-9_-]{43}$/;

/** Makes a new address at which calendar programs read the actor's calendar; only its hash is kept. */
export async function makeFeed(context: Context): Promise<{ url: string }> {
  const token = randomBytes(32).toString('base64url');
  await context.sequelize.query(
    `INSERT INTO calendar_feeds (user_id, token_hash, made_at) VALUES ($me, $hash, $now)
     ON CONFLICT (user_id) DO UPDATE SET token_hash = EXCLUDED.token_hash, made_at = EXCLUDED.made_at, read_at = NULL`,
    {
      bind: { me: requireActor(context).id, hash: hashToken(token), now: context.now() },
      transaction: context.tx,
    },
  );
  return { url: `${context.house.publicUrl}/calendars/${token}.ics` };
}

interface Feed {
  madeAt: string | null;
  readAt: string | null;
}
export async function feedOf(context: Context): Promise<Feed> {
  const [row] = await context.sequelize.query<{ made_at: Date; read_at: Date | null }>(
    'SELECT made_at, read_at FROM calendar_feeds WHERE user_id = $me',
    { bind: { me: requireActor(context).id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return { madeAt: row?.made_at.toISOString() ?? null, readAt: row?.read_at?.toISOString() ?? null };
}

export async function endFeed(context: Context): Promise<{ ended: boolean }> {
  const rows = await context.sequelize.query(
    'DELETE FROM calendar_feeds WHERE user_id = $me RETURNING user_id',
    { bind: { me: requireActor(context).id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return { ended: rows.length > 0 };
}

/** A whole day is the date it has in the zone of its task. */
const dateIn = (iso: string, zone: string): string => DateTime.fromISO(iso, { zone }).toISODate() ?? '';

function eventOf(item: CalendarItem, { house, now }: Pick<Context, 'house' | 'now'>): CalendarEvent {
  const day = dateIn(item.start, item.zone);
  const next = DateTime.fromISO(day).plus({ days: 1 }).toISODate() ?? day;
  const end = dateIn(item.end, item.zone);
  return {
    uid: item.isExpected
      ? `${item.start.slice(0, 10)}.${uidOf(item.taskId, house.publicUrl)}`
      : uidOf(item.taskId, house.publicUrl),
    sequence: 0,
    stamp: now().toISOString(),
    title: item.title,
    start: item.allDay ? day : item.start,
    end: !item.allDay ? item.end : end > next ? end : next,
    allDay: item.allDay,
    place: item.place,
    notes: [item.about, item.with.length ? `With: ${item.with.join(', ')}` : ''].filter(Boolean).join('\n'),
    url: `${house.publicUrl}/round?task=${item.taskId}`,
    organizer: null,
    attendees: [],
    isCancelled: false,
    comment: '',
  };
}

/** The calendar at a secret address, as its owner sees it; null where there is none. */
async function readFeed(tools: Tools, token: string): Promise<string | null> {
  const user = await runInTransaction(tools, null, async ({ sequelize, tx, now }) => {
    const [feed] = await sequelize.query<{ user_id: string }>(
      'UPDATE calendar_feeds SET read_at = $now WHERE token_hash = $hash RETURNING user_id',
      { bind: { hash: hashToken(token), now: now() }, type: QueryTypes.SELECT, transaction: tx },
    );
    return feed ? User.findOne({ where: { id: feed.user_id, active: true }, transaction: tx }) : null;
  });
  if (!user) return null;
  return runInTransaction(tools, await actorOf(user), async (context) => {
    const today = DateTime.fromJSDate(context.now());
    const within = {
      from: today.minus({ days: DAYS_BACK }).toJSDate(),
      until: today.plus({ days: DAYS_ON }).toJSDate(),
    };
    const items = await calendarOf(context, [user.id], within);
    return writeCalendar(
      items.map((item) => eventOf(item, context)),
      'PUBLISH',
      user.name,
    );
  });
}

/** Calendars for programs that only read, each at a secret address. Nobody is signed in here. */
export async function mountFeeds(app: FastifyInstance, tools: Tools): Promise<void> {
  await app.register(async (open) => {
    open.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
    });
    await open.register(rateLimit, { max: MOST_READS_A_MINUTE, timeWindow: '1 minute' });
    open.get<{ Params: { file: string } }>(
      '/calendars/:file',
      { schema: { hide: true } },
      async (request, reply) => {
        const token = request.params.file.replace(/\.ics$/, '');
        const calendar = TOKEN.test(token) ? await readFeed(tools, token) : null;
        reply.header('cache-control', 'no-store').header('referrer-policy', 'no-referrer');
        if (calendar === null)
          return reply.code(404).type('text/plain; charset=utf-8').send('There is no calendar here.');
        return reply.type('text/calendar; charset=utf-8').send(calendar);
      },
    );
  });
}
