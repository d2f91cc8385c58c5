import { DateTime } from 'luxon';

export interface DueTask {
  id: string;
  /** ISO 8601. */
  dueAt: string;
  allDay: boolean;
  /** IANA name of the zone in which its day counts; the reader's where it is left out. */
  zone?: string;
  /** Where one of several whole days ends: when the day after its last begins; ISO 8601. */
  endAt?: string | null;
}

export type DueState = 'overdue' | 'today' | 'later';

/**
 * Where a task stands at a moment for a reader in `zone` (IANA). A whole day is the same date wherever it is read, and is
 * overdue only when that date, or the last of several, is over; a time is the same moment for everybody.
 */
export function dueState(
  task: Pick<DueTask, 'dueAt' | 'allDay' | 'zone' | 'endAt'>,
  now: string,
  zone: string,
): DueState {
  const at = DateTime.fromISO(now, { zone });
  const today = at.toISODate() ?? '';
  const due = DateTime.fromISO(task.dueAt, { zone: task.allDay ? (task.zone ?? zone) : zone });
  const day = due.toISODate() ?? '';
  if (day === today) return !task.allDay && due < at ? 'overdue' : 'today';
  if (task.allDay && task.endAt && day < today) {
    const end = DateTime.fromISO(task.endAt, { zone: task.zone ?? zone }).toISODate() ?? '';
    return today < end ? 'today' : 'overdue';
  }
  return day < today ? 'overdue' : 'later';
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
