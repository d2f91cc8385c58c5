import type { Room } from '../http/room';
import { companyHandlers } from './routes';

export const companies: Room = {
  name: 'companies',
  routes: [companyHandlers],
  tables: [
    {
      table: 'companies',
      role: 'record',
      refers: [{ column: 'parent_id', to: 'companies' }],
    },
  ],
};
