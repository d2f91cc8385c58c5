import { requireActor, type Context } from '../commands/context';
import { requireColleague } from '../commands/colleague';
import type { LedgerEntry } from '../db/models/ledger';
import { Task } from '../db/models/tasks';
import { notFound } from '../http/problems';
import { enter, linkEntry } from '../ledger/write';
import { peopleOf, putPeople } from '../meetings/people';
import { kindOf, requireWatchers, seriesFrom, startOf, type WantedTask } from './add';
import { endMovedTo, endOf } from './ends';
import { addNext } from './series';

type Patch = { [Key in keyof WantedTask]?: WantedTask[Key] } & {
  done?: boolean | undefined;
  personId?: string | null | undefined;
  companyId?: string | null | undefined;
  leadId?: string | null | undefined;
  dealId?: string | null | undefined;
  projectId?: string | null | undefined;
  caseId?: string | null | undefined;
};

/** @throws 404 */
export async function loadTask(context: Context, id: string): Promise<Task> {
  const task = await Task.findByPk(id, { transaction: context.tx, lock: true });
  if (!task) throw notFound('There is no such task.');
  return task;
}

/** Whatever happened at a meeting happened with everybody who came. */
export async function linkPeople(context: Context, taskId: string, entry: LedgerEntry): Promise<void> {
  for (const { personId } of await peopleOf(context, taskId))
    await linkEntry(context, entry.id, { personId });
}

/**
 * What was done happened, and goes into the ledger of all it concerns. A mail that was to be sent is entered as done and
 * not as sent: the mail itself enters the ledger when it is.
 */
async function enterDone(context: Context, task: Task): Promise<void> {
  const people = await peopleOf(context, task.id);
  const isAbout =
    task.personId ?? task.companyId ?? task.leadId ?? task.dealId ?? task.projectId ?? task.caseId;
  if (!isAbout && !people.some(({ personId }) => personId)) return;
  if (task.kind === 'mail' || task.kind === 'task')
    await enter(context, { side: 'within', kind: 'task', headline: `Done: ${task.title}` }, task);
  else {
    // What was to be said leaves nothing open.
    const said = { side: 'ours', kind: task.kind, headline: task.title } as const;
    await linkPeople(context, task.id, await enter(context, said, task, { text: '' }));
  }
}

/** It lasts as long as it did, at its new time, and begins as long before. */
function timesOf(task: Task, patch: Patch): Partial<Pick<Task, 'dueAt' | 'endsAt' | 'startsAt' | 'allDay'>> {
  const dueAt = patch.dueAt ? new Date(patch.dueAt) : task.dueAt;
  const allDay = patch.allDay ?? task.allDay;
  const by = dueAt.getTime() - task.dueAt.getTime();
  const shifted = (time: Date | null | undefined): Date | null =>
    time ? new Date(time.getTime() + by) : null;
  return {
    ...(patch.dueAt ? { dueAt } : {}),
    ...(patch.allDay === undefined ? {} : { allDay }),
    endsAt:
      patch.endAt !== undefined
        ? endOf({ dueAt: dueAt.toISOString(), endAt: patch.endAt, allDay, zone: patch.zone ?? task.zone })
        : allDay === task.allDay
          ? endMovedTo(dueAt, task)
          : null,
    startsAt: patch.startAt === undefined ? shifted(task.startsAt) : startOf(patch.startAt, dueAt),
  };
}

/** Who has it now: given by whoever acts, unless they take it themselves. */
async function given(context: Context, task: Task, to: string | undefined): Promise<Partial<Task>> {
  const actor = requireActor(context);
  if (to === undefined || to === task.assigneeId) return {};
  const assigneeId = to === actor.id ? actor.id : await requireColleague(context, to);
  return { assigneeId, givenBy: assigneeId === actor.id ? null : actor.id, declined: null };
}

/**
 * Changes a task; once it is done, it enters the ledger, and one that repeats comes again. Done twice it is done once.
 * @param isEntered what came of it was entered into the ledger already
 * @returns the event, or null where nothing changed
 */
export async function changeTask(
  context: Context,
  task: Task,
  patch: Patch,
  version?: number,
  isEntered = false,
): Promise<string | null> {
  const { done, kindId, repeat, watchers } = patch;
  const finishing = done === true && !task.doneAt;
  const actor = requireActor(context);
  const simple = [
    'title',
    'allDay',
    'zone',
    'priority',
    'progress',
    'notes',
    'checklist',
    'reminders',
    'place',
    'isInviting',
  ] as const;
  const records = ['personId', 'companyId', 'leadId', 'dealId', 'projectId', 'caseId'] as const;
  const plain = Object.fromEntries(
    [...simple, ...records].flatMap((key) => (patch[key] === undefined ? [] : [[key, patch[key]]])),
  ) as Partial<Task>;
  const times = timesOf(task, patch);
  await context.write.update(
    task,
    {
      ...plain,
      ...times,
      ...(kindId !== undefined || patch.kind
        ? await kindOf(context, kindId ?? null, patch.kind ?? task.kind)
        : {}),
      ...(watchers ? { watchers: await requireWatchers(context, watchers) } : {}),
      ...(repeat === undefined || repeat === task.repeat
        ? {}
        : seriesFrom(context, repeat, times.dueAt ?? task.dueAt)),
      ...(await given(context, task, patch.assigneeId)),
      ...(finishing ? { doneAt: context.now(), doneBy: actor.id } : {}),
      ...(done === false ? { doneAt: null, doneBy: null } : {}),
    },
    version,
  );
  if (patch.people) await putPeople(context, task, patch.people);
  if (finishing) {
    if (!isEntered) await enterDone(context, task);
    await addNext(context, task);
  }
  return context.write.event(
    finishing ? 'finish next move' : 'change next move',
    `${finishing ? 'Done' : 'Changed'}: ${task.title}`,
    actor.id,
  );
}
