import { isSameFacts } from '@emporikon/core/calendar/mergeFacts';
import { isTaskRule } from '@emporikon/core/calendar/recurrence';
import { durationOf } from '@emporikon/core/calendar/repeat';
import { readObject, type EventFacts } from '@emporikon/core/formats/calendarObject';
import {
  newObject,
  withFacts,
  withoutOccurrence,
  withRule,
} from '@emporikon/core/formats/writeCalendarObject';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { CaldavEvent, CaldavObject, type CaldavLink } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { uidOf } from '../meetings/facts';
import { davUrl, type Dav } from '../outside/dav';
import { DavRefusal, DavTrouble } from '../outside/davFetch';
import { endOfFacts, factsOfTask, seriesSpanAt, spanAt } from './facts';
import { renewLease } from './link';
import { keepFile } from './take';

const TYPE = 'text/calendar; charset=utf-8';
/** At most so many are new at once; the others follow. */
const MOST_TASKS = 2000;

/** What is to be written into the other calendar. */
type Send =
  | { kind: 'add'; taskId: string; uid: string; data: string }
  | { kind: 'change'; event: CaldavEvent; facts: EventFacts; rule: string | null }
  | { kind: 'remove'; event: CaldavEvent };

/** The rule of a task by which it also repeats in other programs; one that counts from when it was done is nothing they know. */
const ruleOf = (task: Task): string | null =>
  task.repeat && !task.doneAt && !durationOf(task.repeat) ? task.repeat : null;

/**
 * What stands in somebody's calendar here with a time or as meetings of whole days, or did when it was sent; work that is due on a
 * day is no appointment. Of what is known already nothing may be left out: what is missing is removed there.
 */
async function loadTasks(context: Context, me: string, known: readonly string[]): Promise<Task[]> {
  const rows = await context.sequelize.query<{ id: string }>(
    `WITH mine AS (SELECT t.id, t.due_at, t.all_day AND t.kind NOT IN ('meeting', 'visit') AS is_day_of_work, t.done_at FROM tasks t
                    WHERE t.assignee_id = $me OR t.id IN (SELECT a.task_id FROM task_people a WHERE a.user_id = $me AND a.answer <> 'declined'))
     (SELECT id FROM mine WHERE id = ANY ($known::uuid[])) UNION
     (SELECT id FROM mine WHERE NOT is_day_of_work AND done_at IS NULL AND due_at >= $from AND due_at < $until ORDER BY due_at, id LIMIT ${MOST_TASKS})`,
    {
      bind: { me, known: [...known], ...spanAt(context.now()) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return Task.findAll({ where: { id: rows.map(({ id }) => id) }, transaction: context.tx });
}

function newSend(context: Context, task: Task): Send | null {
  const facts = factsOfTask(task, null);
  if (task.doneAt || Date.parse(facts.end) <= context.now().getTime()) return null;
  const uid = uidOf(task.id, context.house.publicUrl);
  const data = newObject({
    ...{ uid, facts, rule: ruleOf(task), zone: task.zone },
    stamp: context.now().toISOString(),
    url: `${context.house.publicUrl}/round?task=${task.id}`,
    isPrivate: (task.visibility ?? 'everybody') !== 'everybody',
  });
  return { kind: 'add', taskId: task.id, uid, data };
}

function changeOf(event: CaldavEvent, task: Task): Send | null {
  if (event.clash || (task.doneAt && !event.rule)) return null;
  const facts = task.doneAt ? event.base : factsOfTask(task, event.base);
  const keepsRule = !event.isOurs || (event.rule && !isTaskRule(event.rule));
  const rule = keepsRule ? (event.rule ?? null) : ruleOf(task);
  return isSameFacts(facts, event.base) && rule === (event.rule ?? null)
    ? null
    : { kind: 'change', event, facts, rule };
}

/** What of somebody's calendar the other one does not have yet, or has otherwise. */
async function planSends(context: Context, actor: Actor, link: CaldavLink): Promise<Send[]> {
  const { tx } = context;
  const objects = await CaldavObject.findAll({
    attributes: ['id'],
    where: { linkId: link.id },
    transaction: tx,
  });
  const events = await CaldavEvent.findAll({
    where: { objectId: objects.map(({ id }) => id) },
    transaction: tx,
  });
  const tasks = await loadTasks(
    context,
    actor.id,
    events.map(({ taskId }) => taskId),
  );
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const known = new Set(events.map(({ taskId }) => taskId));
  const sends: (Send | null)[] = [];
  for (const event of events) {
    const task = byId.get(event.taskId);
    if (task) sends.push(changeOf(event, task));
    else if (!event.clash && endOfFacts(event.base, actor.timeZone) > context.now())
      sends.push({ kind: 'remove', event });
  }
  for (const task of tasks) if (!known.has(task.id)) sends.push(newSend(context, task));
  return sends.flatMap((send) => send ?? []);
}

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
    await CaldavEvent.create(
      {
        ...{ id: context.newId(), objectId: object.id, occurrence: '', taskId, isOurs: true },
        ...{ base: read.first.facts, rule: read.rule },
      },
      { transaction: tx },
    );
  });
  return true;
}

async function sendChange(
  { tools, actor, dav, calendar }: Sending,
  { event, facts, rule }: Extract<Send, { kind: 'change' }>,
): Promise<boolean> {
  const object = await CaldavObject.findByPk(event.objectId);
  if (!object) return true;
  const said = { stamp: tools.now().toISOString(), zone: actor.timeZone };
  const hasMoved = !isSameFacts(facts, event.base);
  const moved = hasMoved ? withFacts(object.raw, event.occurrence, event.base, facts, said) : object.raw;
  const isRuled = event.isOurs && rule !== (event.rule ?? null);
  const raw = moved && isRuled ? withRule(moved, rule, said.stamp) : moved;
  if (!raw) return true;
  const written = await put(dav, calendar, object.href, raw, object.etag);
  if (!written) return false;
  await runInTransaction(tools, actor, async ({ tx }) => {
    await object.update(written, { transaction: tx });
    await event.update({ base: facts, rule }, { transaction: tx });
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

/** @returns whether it was written; not where somebody changed it there meanwhile */
function sendOne(sending: Sending, send: Send): Promise<boolean> {
  if (send.kind === 'add') return sendNew(sending, send);
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
