import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { keepSumsJob } from './keepSums';
import { dealHandlers } from './routes';

export const deals: Room = {
  name: 'deals',
  routes: [dealHandlers],
  jobs: [keepSumsJob],
  tables: [
    { table: 'deals', role: 'record', refers: refersTo('company', 'lead') },
    {
      table: 'deal_roles',
      role: 'work',
      refers: [
        { column: 'person_id', to: 'people', unique: ['deal_id', 'role'] },
        { column: 'deal_id', to: 'deals' },
      ],
      erase: 'delete',
      export: true,
    },
    { table: 'deal_states', role: 'note', refers: refersTo('deal') },
    ...plain('ground', 'deal_sums'),
  ],
};
