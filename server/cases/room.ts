import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { caseHandlers } from './routes';

export const cases: Room = {
  name: 'cases',
  routes: [caseHandlers],
  tables: [
    {
      table: 'cases',
      role: 'work',
      refers: refersTo('person', 'company', 'deal'),
      erase: 'keep',
      export: true,
    },
    ...plain('setting', 'case_promises'),
  ],
};
