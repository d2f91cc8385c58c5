import { refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { noticeHandlers } from './routes';

export const notices: Room = {
  name: 'notices',
  routes: [noticeHandlers],
  tables: [
    {
      table: 'notices',
      role: 'note',
      refers: refersTo('person', 'company', 'lead', 'deal'),
      erase: 'delete',
      export: false,
    },
  ],
};
