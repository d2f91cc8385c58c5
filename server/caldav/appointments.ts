/**
 * Whether a task is somebody's own appointment, as SQL over an alias of `tasks`: it came from their other calendar and is seen by
 * nobody else. It is no work, and is not handed to anybody.
 */
export const isOwnAppointment = (task: string): string =>
  `(${task}.visibility = 'named' AND EXISTS (SELECT 1 FROM caldav_events e WHERE e.task_id = ${task}.id AND NOT e.is_ours))`;
