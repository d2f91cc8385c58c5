import { requireActor, type Context } from '../commands/context';
import { Task } from '../db/models/deals';
import type { Concerned } from '../ledger/write';
import { endOf } from './ends';

/** A next move as it is asked for: times in ISO 8601. */
interface Wanted {
  title: string;
  kind: Task['kind'];
  dueAt: string;
  allDay: boolean;
  endAt?: string | null | undefined;
  assigneeId?: string | undefined;
}

/** Sets a next move on all it concerns; it is whoever acts who has to do it, unless somebody else is named. */
export const addTask = (context: Context, wanted: Wanted, about: Concerned): Promise<Task> =>
  context.write.insert(Task, {
    id: context.newId(),
    title: wanted.title,
    kind: wanted.kind,
    dueAt: new Date(wanted.dueAt),
    allDay: wanted.allDay,
    endsAt: endOf(wanted),
    assigneeId: wanted.assigneeId ?? requireActor(context).id,
    personId: about.personId ?? null,
    companyId: about.companyId ?? null,
    leadId: about.leadId ?? null,
    dealId: about.dealId ?? null,
    createdBy: context.actor?.id ?? null,
    createdAt: context.now(),
  });
