import { isSameFacts } from '@emporikon/core/calendar/mergeFacts';
import { isTaskRule } from '@emporikon/core/calendar/recurrence';
import { readObject, type EventFacts } from '@emporikon/core/formats/calendarObject';
import { newObject, withFacts } from '@emporikon/core/formats/writeCalendarObject';
import { Op, QueryTypes } from 'sequelize';
import type { Actor, Context } from '../commands/context';
import { CaldavEvent, CaldavObject, type CaldavLink } from '../db/models/caldav';
import { Task } from '../db/models/tasks';
import { taskIdOf, uidOf } from '../meetings/facts';
import { endOfFacts, factsOfTask, seriesSpanAt, spanAt } from './facts';
import { endSeries, factsByRule, planSeries, ruleOf, withExceptions, type Rewrite } from './sendSeries';
import { currentName, findCurrent } from './series';

/** At most so many are new at once; the others follow. */
const MOST_TASKS = 2000;

/** What is to be written into the other calendar. */
export type Send =
  | { kind: 'add'; taskId: string; uid: string; data: string }
  | { kind: 'change'; event: CaldavEvent; facts: EventFacts; rule: string | null; seriesId: string | null }
  | { kind: 'remove'; event: CaldavEvent }
  | Rewrite;

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

/** A task that the other calendar does not have; those that are later times of a series go with it. */
async function newSends(context: Context, task: Task, claimed: Set<string>): Promise<Send[]> {
  const facts = factsOfTask(task, null);
  if (task.doneAt || claimed.has(task.id) || Date.parse(facts.end) <= context.now().getTime()) return [];
  const uid = uidOf(task.id, context.house.publicUrl);
  const rule = ruleOf(task);
  const usual = rule ? factsByRule(task) : facts;
  const said = { stamp: context.now().toISOString(), zone: task.zone };
  const data = newObject({
    ...{ uid, facts: usual, rule, zone: task.zone, stamp: said.stamp },
    url: `${context.house.publicUrl}/round?task=${task.id}`,
    isPrivate: (task.visibility ?? 'everybody') !== 'everybody',
  });
  if (!rule) return [{ kind: 'add', taskId: task.id, uid, data }];
  const moved = isSameFacts(facts, usual) ? data : withFacts(data, currentName(task), usual, facts, said);
  const { raw, own } = await withExceptions(context, moved ?? data, task, new Set(), said);
  for (const split of own) claimed.add(split.task.id);
  return [{ kind: 'add', taskId: task.id, uid, data: raw }];
}

function changeOf(event: CaldavEvent, task: Task): Send | null {
  if (event.clash || (task.doneAt && !event.rule)) return null;
  const facts = task.doneAt ? event.base : factsOfTask(task, event.base);
  const keepsRule = !event.isOurs || (event.rule && !isTaskRule(event.rule));
  const rule = keepsRule ? (event.rule ?? null) : ruleOf(task);
  const seriesId = rule && !keepsRule ? (task.seriesId ?? null) : null;
  return isSameFacts(facts, event.base) && rule === (event.rule ?? null)
    ? null
    : { kind: 'change', event, facts, rule, seriesId };
}

/** A file that there is with the events that are in it. */
interface Known {
  object: CaldavObject;
  event: CaldavEvent;
  task: Task | undefined;
  /** The names of the times in the file that are tasks of their own. */
  names: ReadonlySet<string>;
}

async function seriesSends(
  context: Context,
  actor: Actor,
  known: Known,
  claimed: Set<string>,
): Promise<Send[]> {
  const { object, event, task, names } = known;
  if (event.clash) return [];
  const said = { stamp: context.now().toISOString(), zone: actor.timeZone };
  const isSame = task && task.seriesId === event.seriesId && task.allDay === !event.anchor?.includes('T');
  if (isSame) {
    const sent = task.doneAt ? null : await planSeries(context, object, event, task, names, said);
    for (const split of sent?.own ?? []) claimed.add(split.task.id);
    return sent ? [sent] : [];
  }
  const over = await Task.count({
    where: { seriesId: event.seriesId ?? '', doneAt: { [Op.ne]: null } },
    transaction: context.tx,
  });
  const read = readObject(object.raw, actor.timeZone, seriesSpanAt(context.now()));
  const { start } = event.base;
  const at = read?.byHand.find(({ facts }) => facts.start === start)?.at ?? start;
  const isOwnFile = task && taskIdOf(object.uid) === task.id;
  const ended = over > 0 && !isOwnFile ? endSeries(object, event, at, said) : null;
  if (ended) return [ended, ...(task ? await newSends(context, task, claimed) : [])];
  const change = task && changeOf(event, task);
  return change ? [change] : task ? [] : [{ kind: 'remove', event }];
}

/** What of somebody's calendar the other one does not have yet, or has otherwise. */
export async function planSends(context: Context, actor: Actor, link: CaldavLink): Promise<Send[]> {
  const { tx } = context;
  const objects = new Map(
    (await CaldavObject.findAll({ attributes: ['id'], where: { linkId: link.id }, transaction: tx })).map(
      ({ id }) => [id, null as CaldavObject | null],
    ),
  );
  const events = await CaldavEvent.findAll({ where: { objectId: [...objects.keys()] }, transaction: tx });
  const inSeries = events.filter(({ seriesId }) => seriesId);
  for (const object of await CaldavObject.findAll({
    where: { id: inSeries.map(({ objectId }) => objectId) },
    transaction: tx,
  }))
    objects.set(object.id, object);
  for (const event of inSeries) {
    const read = readObject(
      objects.get(event.objectId)?.raw ?? '',
      actor.timeZone,
      seriesSpanAt(context.now()),
    );
    if (read) await findCurrent(context, event, read);
  }
  const tasks = await loadTasks(
    context,
    actor.id,
    events.map(({ taskId }) => taskId),
  );
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const known = new Set(events.map(({ taskId }) => taskId));
  const claimed = new Set<string>();
  const sends: (Send | null)[] = [];
  for (const event of events) {
    const task = byId.get(event.taskId);
    const object = event.seriesId ? objects.get(event.objectId) : null;
    if (object) {
      const names = new Set(
        events.flatMap((one) => (one.objectId === object.id && one !== event ? [one.occurrence] : [])),
      );
      sends.unshift(...(await seriesSends(context, actor, { object, event, task, names }, claimed)));
    } else if (task) sends.push(changeOf(event, task));
    else if (!event.clash && endOfFacts(event.base, actor.timeZone) > context.now())
      sends.push({ kind: 'remove', event });
  }
  // A series first: what is one of its times goes into its file.
  for (const task of tasks.sort((a, b) => Number(b.repeat !== null) - Number(a.repeat !== null)))
    if (!known.has(task.id)) sends.push(...(await newSends(context, task, claimed)));
  return sends.flatMap((send) => send ?? []);
}
