import { DateTime } from 'luxon';

export interface DueTask {
  id: string;
  /** ISO 8601. */
  dueAt: string;
  allDay: boolean;
}

export type DueState = 'overdue' | 'today' | 'later';

/** Where a task stands at a moment: an all-day task is overdue only when its day is over. Days are days of `zone` (IANA). */
export function dueState(task: Pick<DueTask, 'dueAt' | 'allDay'>, now: string, zone: string): DueState {
  const due = DateTime.fromISO(task.dueAt, { zone });
  const at = DateTime.fromISO(now, { zone });
  if (due.hasSame(at, 'day')) return !task.allDay && due < at ? 'overdue' : 'today';
  return due < at ? 'overdue' : 'later';
}

const RANK: Record<DueState, number> = { overdue: 0, today: 1, later: 2 };

/** The round: overdue first and the longest overdue first, then today by the clock, then what comes. */
export function rankRound<Task extends DueTask>(
  tasks: readonly Task[],
  now: string,
  zone: string,
): (Task & { state: DueState })[] {
  return tasks
    .map((task) => ({ ...task, state: dueState(task, now, zone) }))
    .sort(
      (a, b) =>
        RANK[a.state] - RANK[b.state] ||
        Date.parse(a.dueAt) - Date.parse(b.dueAt) ||
        a.id.localeCompare(b.id),
    );
}
