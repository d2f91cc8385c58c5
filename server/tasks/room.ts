import { refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { taskHandlers } from './routes';

export const tasks: Room = {
  name: 'tasks',
  routes: [taskHandlers],
  tables: [
    {
      table: 'tasks',
      role: 'work',
      refers: refersTo('person', 'company', 'lead', 'deal'),
      erase: 'unlink',
      export: true,
    },
  ],
};
