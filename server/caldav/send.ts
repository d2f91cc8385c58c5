import { isSameFacts } from '@emporikon/core/calendar/mergeFacts';
import { readObject } from '@emporikon/core/formats/calendarObject';
import { withFacts, withoutOccurrence, withRule } from '@emporikon/core/formats/writeCalendarObject';
import { Op } from 'sequelize';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { CaldavEvent, CaldavObject, type CaldavLink } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { davUrl, type Dav } from '../outside/dav';
import { DavRefusal, DavTrouble } from '../outside/davFetch';
import { seriesSpanAt, timeName } from './facts';
import { renewLease } from './link';
import { planSends, type Send } from './plan';
import type { Rewrite } from './sendSeries';
import { keepFile } from './take';

const TYPE = 'text/calendar; charset=utf-8';

/** The file as it is to be, and what it then is called by its server; null where somebody changed it since. */
async function put(
  dav: Dav,
  calendar: string,
  href: string,
  data: string,
  etag: string | null,
): Promise<{ etag: string; raw: string } | null> {
  const result = await dav.put(davUrl(href, calendar), data, TYPE, etag);
  if (!result.isDone) return null;
  if (result.etag) return { etag: result.etag, raw: data };
  // A server that names no etag may have written it its own way.
  const [file] = await dav.read(calendar, [href]);
  return file ? { etag: file.etag, raw: file.data } : null;
}

interface Sending {
  tools: Tools;
  actor: Actor;
  link: CaldavLink;
  dav: Dav;
  calendar: string;
}

async function sendNew(
  { tools, actor, link, dav, calendar }: Sending,
  { uid, taskId, data }: Extract<Send, { kind: 'add' }>,
): Promise<boolean> {
  const href = `${decodeURIComponent(new URL(calendar).pathname).replace(/\/?$/, '/')}${uid}.ics`;
  const written = await put(dav, calendar, href, data, null);
  if (!written) return false;
  await runInTransaction(tools, actor, async (context) => {
    const { tx } = context;
    const read = readObject(written.raw, actor.timeZone, seriesSpanAt(context.now()));
    if (!read) return;
    const object = await keepFile(context, link, { href, etag: written.etag, data: written.raw }, uid);
    const task = read.rule ? await Task.findByPk(taskId, { transaction: tx }) : null;
    const add = (occurrence: string, said: Pick<CaldavEvent, 'taskId' | 'base'> & Partial<CaldavEvent>) =>
      CaldavEvent.create(
        { id: context.newId(), objectId: object.id, occurrence, isOurs: true, ...said },
        { transaction: tx },
      );
    if (!task?.seriesId) return void (await add('', { taskId, base: read.first.facts, rule: read.rule }));
    const { seriesId } = task;
    const series = { rule: read.rule, seriesId, anchor: read.first.facts.start };
    const isNow = (at: string): boolean => at === timeName(task, task.occursAt ?? task.dueAt);
    const now = read.byHand.find(({ at }) => isNow(at)) ?? read.first;
    await add('', { taskId, base: now.facts, ...series });
    const own = await Task.findAll({ where: { seriesId, repeat: null, doneAt: null }, transaction: tx });
    for (const { at, facts } of read.byHand) {
      const split = own.find((one) => timeName(task, one.occursAt ?? one.dueAt) === at);
      if (split && !isNow(at)) await add(at, { taskId: split.id, base: facts });
    }
  });
  return true;
}

async function sendChange(
  { tools, actor, dav, calendar }: Sending,
  { event, facts, rule, seriesId }: Extract<Send, { kind: 'change' }>,
): Promise<boolean> {
  const object = await CaldavObject.findByPk(event.objectId);
  if (!object) return true;
  const said = { stamp: tools.now().toISOString(), zone: actor.timeZone };
  const span = seriesSpanAt(tools.now());
  const was = event.seriesId ? readObject(object.raw, actor.timeZone, span)?.first.facts : event.base;
  const hasMoved = was !== undefined && !isSameFacts(facts, was);
  const moved = hasMoved ? withFacts(object.raw, event.occurrence, was, facts, said) : object.raw;
  const isRuled = event.isOurs && rule !== (event.rule ?? null);
  const raw = moved && isRuled ? withRule(moved, rule, said.stamp) : moved;
  if (!raw) return true;
  const written = await put(dav, calendar, object.href, raw, object.etag);
  if (!written) return false;
  await runInTransaction(tools, actor, async ({ tx }) => {
    await object.update(written, { transaction: tx });
    const anchor = seriesId && facts.start;
    await event.update({ base: facts, rule, seriesId, anchor }, { transaction: tx });
    // What was one of its times is a meeting like any other now.
    const others = { objectId: object.id, id: { [Op.ne]: event.id } };
    if (isRuled) await CaldavEvent.destroy({ where: others, transaction: tx });
  });
  return true;
}

async function sendRemoval(
  { tools, actor, dav, calendar }: Sending,
  { event }: Extract<Send, { kind: 'remove' }>,
): Promise<boolean> {
  const object = await CaldavObject.findByPk(event.objectId);
  if (!object) return true;
  const said = { stamp: tools.now().toISOString(), zone: actor.timeZone };
  const raw = withoutOccurrence(object.raw, event.occurrence, said);
  const written = raw ? await put(dav, calendar, object.href, raw, object.etag) : null;
  if (raw && !written) return false;
  if (!raw && !(await dav.remove(davUrl(object.href, calendar), object.etag)).isDone) return false;
  await runInTransaction(tools, actor, async ({ tx }) => {
    await event.destroy({ transaction: tx });
    if (written) await object.update(written, { transaction: tx });
    else await object.destroy({ transaction: tx });
  });
  return true;
}

async function sendRewrite(
  { tools, actor, dav, calendar }: Sending,
  { object, raw, settle }: Rewrite,
): Promise<boolean> {
  const written = await put(dav, calendar, object.href, raw, object.etag);
  if (!written) return false;
  await runInTransaction(tools, actor, async (context) => {
    await CaldavObject.update(written, { where: { id: object.id }, transaction: context.tx });
    await settle(context);
  });
  return true;
}

/** @returns whether it was written; not where somebody changed it there meanwhile */
function sendOne(sending: Sending, send: Send): Promise<boolean> {
  if (send.kind === 'add') return sendNew(sending, send);
  if (send.kind === 'rewrite') return sendRewrite(sending, send);
  return send.kind === 'change' ? sendChange(sending, send) : sendRemoval(sending, send);
}

/**
 * Writes into the other calendar what was changed here.
 * @returns whether something was changed there meanwhile, so that it has to be read first
 * @throws what the server said of the last that it did not take; the others are written
 */
export async function sendChanges(tools: Tools, actor: Actor, link: CaldavLink, dav: Dav): Promise<boolean> {
  const calendar = link.calendarUrl;
  if (!calendar) return false;
  const sends = await runInTransaction(tools, actor, (context) => planSends(context, actor, link));
  const sending = { tools, actor, link, dav, calendar };
  let isOvertaken = false;
  let refusal: DavRefusal | null = null;
  for (const send of sends) {
    if (!(await renewLease(tools, link.id))) throw new DavTrouble('It is no longer kept in step.');
    try {
      if (!(await sendOne(sending, send))) isOvertaken = true;
    } catch (error) {
      if (!(error instanceof DavRefusal)) throw error;
      refusal = error;
    }
  }
  if (refusal) throw refusal;
  return isOvertaken;
}
