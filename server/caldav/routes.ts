import { requireActor, type Context } from '../commands/context';
import { CaldavEvent, CaldavLink, CaldavObject } from '../db/models/caldav';
import type { Handlers } from '../http/mount';
import { conflict, invalid, notFound } from '../http/problems';
import { sealPassword } from '../mailboxes/seal';
import { loadTask } from '../tasks/change';
import { taskOfFacts } from './facts';
import { askSync } from './jobs';
import { asView } from './view';

async function own(context: Context, id: string): Promise<CaldavLink> {
  const link = await CaldavLink.findOne({
    where: { id, userId: requireActor(context).id, endedAt: null },
    transaction: context.tx,
    lock: true,
  });
  if (!link) throw notFound('You have no such calendar account.');
  return link;
}

/** @throws 422 for a collection that the account does not have */
function requireOne(
  url: string | null | undefined,
  among: CaldavLink['calendars'] | undefined,
  field: string,
): void {
  if (url && !among?.some((collection) => collection.url === url))
    throw invalid('The account has no such collection.', {
      fields: { [field]: 'is not one of the account’s' },
    });
}

const hostOf = (link: CaldavLink): string => new URL(link.url).host;

/** Decides what a meeting is that was changed in both calendars; it is written into the other one next. */
async function decide(context: Context, taskId: string, keep: 'here' | 'there'): Promise<string | null> {
  const { tx } = context;
  const actor = requireActor(context);
  const task = await loadTask(context, taskId);
  const links = await CaldavLink.findAll({ where: { userId: actor.id }, transaction: tx });
  const objects = await CaldavObject.findAll({
    attributes: ['id', 'linkId'],
    where: { linkId: links.map(({ id }) => id) },
    transaction: tx,
  });
  const events = await CaldavEvent.findAll({
    where: { taskId, objectId: objects.map(({ id }) => id) },
    transaction: tx,
  });
  const event = events.find(({ clash }) => clash);
  if (!event?.clash) throw conflict('Both calendars say the same of it already.');
  const { isGone, ...there } = event.clash;
  if (isGone) {
    // Kept, it is new to the other calendar.
    await event.destroy({ transaction: tx });
    if (keep === 'there') await context.write.remove(task);
  } else {
    if (keep === 'there')
      await context.write.update(task, taskOfFacts(there, task.allDay ? task.zone : actor.timeZone));
    await event.update({ base: there, clash: null }, { transaction: tx });
  }
  const linkId = objects.find(({ id }) => id === event.objectId)?.linkId;
  if (linkId) await askSync(context, linkId);
  return context.write.event('decide calendar', `${task.title}: as it is ${keep}`, actor.id);
}

export const caldavHandlers: Handlers = {
  'GET /api/calendar/links': async ({ context }) => {
    const links = await CaldavLink.findAll({
      where: { userId: requireActor(context).id, endedAt: null },
      order: ['createdAt'],
      transaction: context.tx,
    });
    const items = [];
    for (const link of links) items.push(await asView(context, link));
    return { items };
  },
  'POST /api/calendar/links': async ({ body, context }) => {
    const { url, username, password } = body;
    const userId = requireActor(context).id;
    const sealed = sealPassword(context.outside.sealKey, password);
    const known = await CaldavLink.findOne({
      where: { userId, url, username },
      transaction: context.tx,
      lock: true,
    });
    if (known && !known.endedAt) throw conflict('Your calendar is kept in step with this account already.');
    const begins = { sealed, state: 'new' as const, trouble: '', mark: '', readOn: null, endedAt: null };
    // One that was given up before knows which events are which; they do not come twice.
    const link = known
      ? await context.write.update(known, begins)
      : await context.write.insert(CaldavLink, {
          ...{ id: context.newId(), userId, url, username, createdAt: context.now() },
          ...begins,
        });
    await askSync(context, link.id);
    const eventId = await context.write.event('add calendar', `Keeps in step with ${hostOf(link)}`, userId);
    return { eventId, id: link.id };
  },
  'PATCH /api/calendar/links/:id': async ({ params, body, context }) => {
    const link = await own(context, params.id);
    const { version, password, mayRemove, calendarUrl, addressBookUrl } = body;
    requireOne(calendarUrl, link.calendars, 'calendarUrl');
    requireOne(addressBookUrl, link.addressBooks, 'addressBookUrl');
    const isOther = calendarUrl !== undefined && calendarUrl !== link.calendarUrl;
    if (isOther && link.calendarUrl)
      throw conflict('Remove the account and add it again to keep another of its calendars in step.');
    await context.write.update(
      link,
      {
        ...(isOther ? { calendarUrl, mark: '', readOn: null } : {}),
        ...(addressBookUrl === undefined ? {} : { addressBookUrl }),
        ...(password ? { sealed: sealPassword(context.outside.sealKey, password) } : {}),
        ...(mayRemove ? { mayRemove, mark: '' } : {}),
        ...(isOther || password || mayRemove ? { state: 'new', trouble: '' } : {}),
      },
      version,
    );
    await askSync(context, link.id);
    return {
      eventId: await context.write.event('change calendar', `Changed ${hostOf(link)}`, link.userId),
    };
  },
  'DELETE /api/calendar/links/:id': async ({ params, context }) => {
    const link = await own(context, params.id);
    await context.write.update(link, { endedAt: context.now(), sealed: '', addressBookUrl: null });
    await context.write.event('end calendar', `Keeps in step with ${hostOf(link)} no more`, link.userId);
    return { eventId: null };
  },
  'POST /api/calendar/links/:id/sync': async ({ params, context }) => {
    await askSync(context, (await own(context, params.id)).id);
    return { asked: true };
  },
  'POST /api/tasks/:id/calendar': async ({ params, body, context }) => ({
    eventId: await decide(context, params.id, body.keep),
  }),
};
