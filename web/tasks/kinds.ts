/** The kinds of tasks that there always are. */
export const TASK_KINDS = [
  { value: 'task', title: 'To do' },
  { value: 'call', title: 'Call' },
  { value: 'mail', title: 'Mail' },
  { value: 'meeting', title: 'Meeting' },
  { value: 'visit', title: 'Visit' },
] as const;

export const PRIORITIES = [
  { value: 'high', title: 'High' },
  { value: 'normal', title: 'Normal' },
  { value: 'low', title: 'Low' },
] as const;
