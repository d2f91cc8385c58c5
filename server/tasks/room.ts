import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { returnJob } from './handover';
import { remindJob } from './reminders';
import { taskHandlers } from './routes';

export const tasks: Room = {
  name: 'tasks',
  routes: [taskHandlers],
  jobs: [remindJob, returnJob],
  tables: [
    {
      table: 'tasks',
      role: 'work',
      refers: refersTo('person', 'company', 'lead', 'deal'),
      erase: 'unlink',
      export: true,
    },
    { table: 'task_messages', role: 'note', erase: 'keep', export: false },
    { table: 'reminders', role: 'note', key: 't.task_id', erase: 'keep', export: false },
    {
      table: 'handover_items',
      role: 'note',
      key: 't.handover_id',
      refers: refersTo('lead'),
      erase: 'keep',
      export: false,
    },
    ...plain('setting', 'task_kinds'),
    ...plain('work', 'handovers'),
  ],
};
