import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { leadHandlers } from './routes';

export const leads: Room = {
  name: 'leads',
  routes: [leadHandlers],
  tables: [
    {
      table: 'leads',
      role: 'record',
      refers: refersTo('person', 'company', 'deal'),
      erase: 'keep',
      export: true,
    },
    { table: 'lead_answers', role: 'work', refers: refersTo('lead') },
    ...plain('setting', 'questions'),
  ],
};
