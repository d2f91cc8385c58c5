import { isSameFacts } from '@emporikon/core/calendar/mergeFacts';
import {
  readObject,
  type CalendarObject,
  type EventFacts,
  type Occurrence,
} from '@emporikon/core/formats/calendarObject';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { CaldavEvent, CaldavObject, type CaldavLink } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { taskIdOf, uidOf } from '../meetings/facts';
import type { DavFile } from '../outside/dav';
import { meet, takeRemoval, takeRule } from './event';
import { endOfFacts, seriesSpanAt } from './facts';
import { addMeeting } from './meeting';
import { takeSeries } from './series';

/** What is one of ours there is one event, however often it repeats: the next of a series here is a task of its own. */
const wantedOf = (object: CalendarObject, isOurs: boolean): Occurrence[] =>
  (isOurs ? [object.first] : object.occurrences).filter(({ isCancelled }) => !isCancelled);

/** In place of the name of an event that cannot be read. */
export const UNREAD = '';

/** Notes a file as it was read or written last. */
export async function keepFile(
  context: Context,
  link: CaldavLink,
  file: DavFile,
  uid: string,
): Promise<CaldavObject> {
  const { tx } = context;
  const known = await CaldavObject.findOne({ where: { linkId: link.id, href: file.href }, transaction: tx });
  const etag = file.etag;
  const raw = file.data.replaceAll('\0', '');
  if (known) return known.update({ etag, raw, uid }, { transaction: tx });
  const { href } = file;
  return CaldavObject.create(
    { id: context.newId(), linkId: link.id, href, uid, etag, raw },
    { transaction: tx },
  );
}

/** One of ours whose row was lost between writing it there and noting that here, or when the account was given up before. */
async function adopt(
  context: Context,
  object: CaldavObject,
  { first, rule }: CalendarObject,
  taskId: string,
): Promise<void> {
  const task = rule ? await Task.findByPk(taskId, { transaction: context.tx }) : null;
  const series = task?.repeat ? { seriesId: task.seriesId, anchor: first.facts.start } : {};
  const said = { occurrence: '', isOurs: true, base: first.facts, rule, ...series };
  await CaldavEvent.create(
    { id: context.newId(), objectId: object.id, taskId, ...said },
    { transaction: context.tx },
  );
}

/** The meeting that a colleague's calendar has under the same name, where they asked whoever keeps this one to come. */
async function sameOf(context: Context, { uid }: CaldavObject, { at }: Occurrence): Promise<string | null> {
  const [found] = await context.sequelize.query<{ id: string }>(
    `SELECT t.id FROM caldav_objects o JOIN caldav_events e ON e.object_id = o.id JOIN tasks t ON t.id = e.task_id
       JOIN task_people p ON p.task_id = t.id AND p.user_id = $me
      WHERE o.uid = $uid AND e.occurrence = $at AND NOT e.is_ours LIMIT 1`,
    {
      bind: { uid, at, me: requireActor(context).id },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return found?.id ?? null;
}

async function add(context: Context, object: CaldavObject, there: Occurrence): Promise<void> {
  const { timeZone } = requireActor(context);
  if (endOfFacts(there.facts, timeZone) <= context.now()) return;
  const taskId = (await sameOf(context, object, there)) ?? (await addMeeting(context, there)).id;
  await CaldavEvent.create(
    {
      ...{ id: context.newId(), objectId: object.id, occurrence: there.at, taskId },
      ...{ isOurs: false, base: there.facts },
    },
    { transaction: context.tx },
  );
}

/**
 * The tasks of a series that was moved as a whole: each of its occurrences has another name then, and keeps its task.
 */
async function renameMoved(
  context: Context,
  events: readonly CaldavEvent[],
  wanted: readonly Occurrence[],
): Promise<void> {
  const names = new Set(wanted.map(({ at }) => at));
  const isToCome = (facts: EventFacts): boolean =>
    endOfFacts(facts, requireActor(context).timeZone) > context.now();
  const coming = events.filter(({ base }) => isToCome(base));
  if (!coming.length || events.some(({ occurrence }) => names.has(occurrence))) return;
  const inOrder = coming.sort((a, b) => a.occurrence.localeCompare(b.occurrence));
  const next = wanted.filter(({ facts }) => isToCome(facts));
  for (const [index, event] of inOrder.entries()) {
    const at = next[index]?.at;
    if (at !== undefined) await event.update({ occurrence: at }, { transaction: context.tx });
  }
}

/** The task that an event is, where this very installation wrote it; another one names its meetings alike. */
function ownTaskId({ house }: Context, uid: string): string | null {
  const id = taskIdOf(uid);
  return id && uid === uidOf(id, house.publicUrl) ? id : null;
}

/** Takes a file of the other calendar as it now is. To be called as whoever keeps the calendar. */
export async function takeFile(context: Context, link: CaldavLink, file: DavFile): Promise<void> {
  const { tx } = context;
  const { timeZone } = requireActor(context);
  const read = readObject(file.data, timeZone, seriesSpanAt(context.now()));
  const object = await keepFile(context, link, file, read?.uid ?? UNREAD);
  if (!read) return;
  const where = { objectId: object.id };
  const known = await CaldavEvent.findAll({ where, transaction: tx });
  const series = known.find(({ seriesId }) => seriesId);
  if (series) return takeSeries(context, { object, read, series, events: known });
  // What was ours stays ours when the address of this installation changes.
  const ours = known.find(({ isOurs }) => isOurs)?.taskId ?? ownTaskId(context, read.uid);
  const wanted = wantedOf(read, ours !== null);
  await renameMoved(context, known, wanted);
  const events = new Map(
    (await CaldavEvent.findAll({ where, transaction: tx })).map((event) => [event.occurrence, event]),
  );
  for (const there of wanted) {
    const event = events.get(there.at);
    events.delete(there.at);
    if (!event) {
      if (ours) await adopt(context, object, read, ours);
      else await add(context, object, there);
      continue;
    }
    const task = await Task.findByPk(event.taskId, { transaction: tx, lock: true });
    if (task?.doneAt) await event.update({ base: there.facts }, { transaction: tx });
    else if (task) {
      await meet(context, event, task, there);
      await takeRule(context, event, task, read.rule);
    } else if (!isSameFacts(event.base, there.facts)) {
      // Removed here and changed there since: what somebody still works on comes back.
      await event.destroy({ transaction: tx });
      await add(context, object, there);
    }
  }
  for (const event of events.values())
    if (endOfFacts(event.base, timeZone) > context.now()) await takeRemoval(context, event);
    else await event.destroy({ transaction: tx });
}

/** Takes note that a file is gone from the other calendar. */
export async function takeGone(context: Context, object: CaldavObject): Promise<void> {
  const { tx } = context;
  const events = await CaldavEvent.findAll({ where: { objectId: object.id }, transaction: tx });
  for (const event of events) await takeRemoval(context, event);
  const left = await CaldavEvent.count({ where: { objectId: object.id }, transaction: tx });
  if (!left) await object.destroy({ transaction: tx });
}
