import { DEFAULT_REMINDERS, type Reminder } from '@emporikon/core/calendar/reminders';
import { isRepeat } from '@emporikon/core/calendar/repeat';
import { requireActor, type Context } from '../commands/context';
import { requireColleague } from '../commands/colleague';
import { Task, TaskKind, type CheckItem, type Priority } from '../db/models/tasks';
import { invalid } from '../http/problems';
import { putPeople, type WantedPerson } from '../meetings/people';
import type { Concerned } from '../ledger/write';
import { endOf } from './ends';

/** A task as it is asked for: times in ISO 8601. */
export interface WantedTask {
  title: string;
  kind: Task['kind'];
  kindId?: string | null | undefined;
  startAt?: string | null | undefined;
  dueAt: string;
  allDay: boolean;
  endAt?: string | null | undefined;
  zone?: string | undefined;
  assigneeId?: string | undefined;
  priority?: Priority | undefined;
  progress?: number | undefined;
  notes?: string | undefined;
  checklist?: CheckItem[] | undefined;
  reminders?: Reminder[] | undefined;
  watchers?: string[] | undefined;
  repeat?: string | null | undefined;
  entryId?: string | null | undefined;
  asked?: string | null | undefined;
  place?: string | undefined;
  isInviting?: boolean | undefined;
  people?: WantedPerson[] | undefined;
}

/** @throws 422 when a rule is none, or comes to pass never */
export function requireRepeat(repeat: string): string {
  if (isRepeat(repeat)) return repeat;
  throw invalid('A task cannot repeat by this rule.', {
    fields: { repeat: 'is not a rule of days or longer' },
  });
}

/** Where a series begins that has this task as its first. */
export const seriesFrom = (
  context: Pick<Context, 'newId'>,
  repeat: string | null,
  dueAt: Date,
): Pick<Task, 'repeat' | 'seriesId' | 'firstAt' | 'occursAt' | 'leftOut'> =>
  repeat
    ? {
        ...{ repeat: requireRepeat(repeat), seriesId: context.newId() },
        ...{ firstAt: dueAt, occursAt: dueAt, leftOut: [] },
      }
    : { repeat: null, seriesId: null, firstAt: null, occursAt: null, leftOut: [] };

/** A kind of one's own acts as what it stands for. @throws 422 where it is not offered */
export async function kindOf(
  context: Context,
  kindId: string | null,
  otherwise: Task['kind'],
): Promise<Pick<Task, 'kind' | 'kindId'>> {
  if (!kindId) return { kind: otherwise, kindId: null };
  const own = await TaskKind.findOne({ where: { id: kindId, active: true }, transaction: context.tx });
  if (!own) throw invalid('There is no such kind of task.', { fields: { kindId: 'does not exist' } });
  return { kind: own.actsAs, kindId: own.id };
}

/** @throws 422 where a task begins after it is due */
export function startOf(startAt: string | null | undefined, dueAt: Date): Date | null {
  if (!startAt) return null;
  const start = new Date(startAt);
  if (start > dueAt)
    throw invalid('A task starts before it is due.', { fields: { startAt: 'is after it is due' } });
  return start;
}

/** @throws 422 where one of them is no colleague */
export async function requireWatchers(context: Context, ids: readonly string[]): Promise<string[]> {
  const once = [...new Set(ids)];
  for (const id of once) await requireColleague(context, id);
  return once;
}

/** Sets a task on all it concerns; it is whoever acts who has to do it, unless somebody else is named. */
export async function addTask(context: Context, wanted: WantedTask, about: Concerned): Promise<Task> {
  const actor = requireActor(context);
  const assigneeId =
    wanted.assigneeId && wanted.assigneeId !== actor.id
      ? await requireColleague(context, wanted.assigneeId)
      : actor.id;
  const dueAt = new Date(wanted.dueAt);
  const zone = wanted.zone ?? actor.timeZone;
  const task = await context.write.insert(Task, {
    id: context.newId(),
    title: wanted.title,
    ...(await kindOf(context, wanted.kindId ?? null, wanted.kind)),
    startsAt: startOf(wanted.startAt, dueAt),
    dueAt,
    allDay: wanted.allDay,
    endsAt: endOf({ ...wanted, zone }),
    zone,
    assigneeId,
    givenBy: assigneeId === actor.id ? null : actor.id,
    ...(wanted.priority ? { priority: wanted.priority } : {}),
    ...(wanted.progress ? { progress: wanted.progress } : {}),
    ...(wanted.notes ? { notes: wanted.notes } : {}),
    ...(wanted.checklist ? { checklist: wanted.checklist } : {}),
    reminders: wanted.reminders ?? [...DEFAULT_REMINDERS],
    ...(wanted.watchers ? { watchers: await requireWatchers(context, wanted.watchers) } : {}),
    ...seriesFrom(context, wanted.repeat ?? null, dueAt),
    entryId: wanted.entryId ?? null,
    asked: wanted.asked ?? null,
    ...(wanted.place ? { place: wanted.place } : {}),
    ...(wanted.isInviting ? { isInviting: true } : {}),
    personId: about.personId ?? null,
    companyId: about.companyId ?? null,
    leadId: about.leadId ?? null,
    dealId: about.dealId ?? null,
    projectId: about.projectId ?? null,
    caseId: about.caseId ?? null,
    createdBy: context.actor?.id ?? null,
    createdAt: context.now(),
  });
  if (wanted.people?.length) await putPeople(context, task, wanted.people);
  return task;
}
