import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { fillTurnsJob } from './fillTurns';
import { keepAnnotationJob } from './keepAnnotation';
import { ledgerHandlers } from './routes';

export const ledger: Room = {
  name: 'ledger',
  routes: [ledgerHandlers],
  jobs: [fillTurnsJob, keepAnnotationJob],
  tables: [
    ...plain('work', 'ledger_entries'),
    ...plain('ground', 'turns', 'looks'),
    { table: 'ledger_revisions', role: 'note' },
    { table: 'annotations', role: 'note' },
    {
      table: 'ledger_links',
      role: 'work',
      refers: [
        { column: 'person_id', to: 'people', unique: ['entry_id'] },
        { column: 'company_id', to: 'companies', unique: ['entry_id'] },
        { column: 'at_company', to: 'companies' },
        ...refersTo('lead', 'deal'),
      ],
      erase: 'keep',
      export: true,
    },
  ],
};
