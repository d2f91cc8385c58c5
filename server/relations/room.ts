import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { relationHandlers } from './routes';

export const relations: Room = {
  name: 'relations',
  routes: [relationHandlers],
  tables: [
    {
      table: 'employments',
      role: 'work',
      refers: refersTo('person', 'company'),
      erase: 'delete',
      export: true,
    },
    ...plain('setting', 'relation_kinds'),
    {
      table: 'relations',
      role: 'work',
      refers: [
        { column: 'from_id', to: 'people', unique: ['kind_id', 'to_id'], across: 'to_id' },
        { column: 'to_id', to: 'people', unique: ['kind_id', 'from_id'], across: 'from_id' },
      ],
      erase: 'delete',
      export: true,
    },
  ],
};
