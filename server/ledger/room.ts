import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { ledgerHandlers } from './routes';

export const ledger: Room = {
  name: 'ledger',
  routes: [ledgerHandlers],
  tables: [
    ...plain('work', 'ledger_entries'),
    {
      table: 'ledger_links',
      role: 'work',
      refers: [
        { column: 'person_id', to: 'people', unique: ['entry_id'] },
        { column: 'company_id', to: 'companies', unique: ['entry_id'] },
        ...refersTo('lead', 'deal'),
      ],
      erase: 'delete',
      export: true,
    },
  ],
};
