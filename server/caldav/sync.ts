import { isForgetful } from '@emporikon/core/calendar/mergeFacts';
import { mayDo } from '@emporikon/core/rights/rights';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { CaldavObject, type CaldavLink } from '../db/models/caldav';
import { isDatabaseGone } from '../db/conflicts';
import type { Dav, DavFile } from '../outside/dav';
import { DavTrouble } from '../outside/davFetch';
import { SignInRefused } from '../outside/imap';
import { findActiveActor } from '../session/identify';
import { sendCards } from './cards';
import { closePast } from './close';
import { spanAt } from './facts';
import { endLease, keepLease, keepState, openLink, renewLease, takeLease } from './link';
import { sendChanges } from './send';
import { keepFile, takeFile, takeGone, UNREAD } from './take';

/** Each round takes what was changed there while the one before wrote. */
const MOST_ROUNDS = 3;

interface Step {
  tools: Tools;
  actor: Actor;
  link: CaldavLink;
  dav: Dav;
  calendar: string;
}

/** Most of a calendar went at once; nothing is removed here until somebody says so. */
class Forgetful extends Error {}

/** Takes a file; one that cannot be taken is noted, so that it holds up no other, until it is changed. */
async function take({ tools, actor, link }: Step, file: DavFile): Promise<void> {
  try {
    await runInTransaction(tools, actor, async (context) => {
      await takeFile(context, link, file);
      await context.write.event('take from calendar', 'Taken over from the other calendar', actor.id);
    });
  } catch (error) {
    if (isDatabaseGone(error)) throw error;
    await runInTransaction(tools, actor, (context) => keepFile(context, link, file, UNREAD));
  }
}

/** What to say of files that could not be taken; nothing where all could. */
async function unreadWords({ tools, link }: Step): Promise<string> {
  const unread = await runInTransaction(tools, null, ({ tx }) =>
    CaldavObject.count({ where: { linkId: link.id, uid: UNREAD }, transaction: tx }),
  );
  return unread === 0 ? '' : `${unread} ${unread === 1 ? 'entry' : 'entries'} there cannot be read here.`;
}

/** How many files of an account hold an event that is still to come. */
async function countKnown({ tools, link }: Step): Promise<number> {
  const [row] = await tools.sequelize.query<{ n: number }>(
    'SELECT count(DISTINCT o.id)::int AS n FROM caldav_objects o JOIN caldav_events e ON e.object_id = o.id WHERE o.link_id = $id',
    { bind: { id: link.id }, type: QueryTypes.SELECT },
  );
  return row?.n ?? 0;
}

async function removeGone(step: Step, gone: readonly CaldavObject[]): Promise<void> {
  const { tools, actor, link } = step;
  if (!gone.length) return;
  if (!link.mayRemove && isForgetful(await countKnown(step), gone.length))
    throw new Forgetful(
      `${gone.length} events are gone from the other calendar at once. Nothing was removed here.`,
    );
  for (const object of gone)
    await runInTransaction(tools, actor, async (context) => {
      await takeGone(context, object);
      await context.write.event('take from calendar', 'Removed in the other calendar', actor.id);
    });
}

/** Takes what was changed in the other calendar since it was read last. */
async function takeChanges(step: Step, today: string): Promise<void> {
  const { tools, link, dav, calendar } = step;
  const mark = await dav.mark(calendar);
  const isNewDay = link.readOn !== today;
  if (mark && mark === link.mark && !isNewDay) return;
  const { from, until } = spanAt(tools.now());
  const entries = new Map((await dav.list(calendar, from, until)).map((entry) => [entry.href, entry.etag]));
  const known = await CaldavObject.findAll({ where: { linkId: link.id } });
  const etags = new Map(known.map((object) => [object.href, object.etag]));
  const changed = [...entries].flatMap(([href, etag]) => (etags.get(href) === etag ? [] : [href]));
  const unlisted = known.filter(({ href }) => !entries.has(href));
  const files = await dav.read(calendar, [...changed, ...unlisted.map(({ href }) => href)]);
  const present = new Set(files.map(({ href }) => href));
  await removeGone(
    step,
    unlisted.filter(({ href }) => !present.has(href)),
  );
  for (const file of files)
    if (etags.get(file.href) !== file.etag) {
      await take(step, file);
      await renewLease(tools, link.id);
    } else if (!entries.has(file.href))
      // Over for so long that it is not listed any more.
      await CaldavObject.destroy({ where: { linkId: link.id, href: file.href } });
  if (isNewDay)
    for (const { href, etag, raw } of known)
      if (entries.get(href) === etag && /^(?:RRULE|RDATE)[:;]/m.test(raw))
        await take(step, { href, etag, data: raw });
  link.mark = mark;
  link.readOn = today;
}

const countClashes = ({ tools, link }: Step): Promise<number> =>
  runInTransaction(tools, null, async ({ sequelize, tx }) => {
    const [row] = await sequelize.query<{ n: number }>(
      'SELECT count(*)::int AS n FROM caldav_events e JOIN caldav_objects o ON o.id = e.object_id WHERE o.link_id = $id AND e.clash IS NOT NULL',
      { bind: { id: link.id }, type: QueryTypes.SELECT, transaction: tx },
    );
    return row?.n ?? 0;
  });

async function bringInStep(step: Step): Promise<void> {
  const { tools, actor, link } = step;
  const today = DateTime.fromJSDate(tools.now(), { zone: actor.timeZone }).toISODate() ?? '';
  for (let round = 0; round < MOST_ROUNDS; round++) {
    await takeChanges(step, today);
    if (!(await sendChanges(tools, actor, link, step.dav))) break;
    // Somebody changed there what was to be written: it is read first.
    link.mark = '';
  }
  await closePast(tools, actor, link);
  await keepState(tools, link.id, {
    trouble: await unreadWords(step),
    clashes: await countClashes(step),
    ...{ state: 'current', syncedAt: tools.now(), mayRemove: false },
    ...{ mark: link.mark, readOn: link.readOn },
  });
}

/** Finds the calendars of an account; one alone is taken. */
async function discover(tools: Tools, link: CaldavLink, dav: Dav): Promise<void> {
  const calendars = await dav.calendars();
  if (!calendars.length) throw new DavTrouble(`No calendar was found at ${link.url}.`);
  const addressBooks = await dav.addressBooks().catch((error: unknown) => {
    if (error instanceof DavTrouble) return [];
    throw error;
  });
  const [only, ...more] = calendars;
  link.calendarUrl = only && !more.length ? only.url : null;
  await keepState(tools, link.id, {
    ...{ calendars, addressBooks, calendarUrl: link.calendarUrl, trouble: '' },
    state: link.calendarUrl ? 'new' : 'choose',
  });
}

/**
 * Brings somebody's calendar and one elsewhere to the same. What was done is kept step by step, so that one that is cut off
 * goes on where it was.
 * @throws when the server is down, so that the queue tries again; the account says so meanwhile
 */
export async function syncLink(tools: Tools, id: string): Promise<void> {
  const link = await takeLease(tools, id);
  if (!link) return;
  const lease = keepLease(tools, id);
  try {
    const actor = await findActiveActor(link.userId);
    if (!actor) return;
    if (!mayDo(actor, 'tasks.add') || !mayDo(actor, 'tasks.change'))
      return await keepState(tools, id, {
        state: 'down',
        trouble: 'Your role does not let you add and change tasks and meetings.',
      });
    const dav = openLink(tools, link);
    if (!link.calendarUrl) await discover(tools, link, dav);
    if (link.calendarUrl) await bringInStep({ tools, actor, link, dav, calendar: link.calendarUrl });
    if (link.addressBookUrl) await sendCards(tools, actor, link, dav);
  } catch (error) {
    if (error instanceof Forgetful)
      return await keepState(tools, id, { state: 'forgetful', trouble: error.message });
    const isRefused = error instanceof SignInRefused;
    if (!isRefused && !(error instanceof DavTrouble)) throw error;
    // The next minute tries again; a wrong password is not, as that could lock the account.
    await keepState(tools, id, { state: isRefused ? 'refused' : 'down', trouble: error.message });
  } finally {
    clearInterval(lease);
    await endLease(tools, id);
  }
}
