import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { projectHandlers } from './routes';

export const projects: Room = {
  name: 'projects',
  routes: [projectHandlers],
  tables: [
    { table: 'projects', role: 'work', refers: refersTo('company', 'deal') },
    {
      table: 'project_people',
      role: 'work',
      refers: [{ column: 'person_id', to: 'people', unique: ['project_id'] }],
      erase: 'delete',
      export: true,
    },
    ...plain('setting', 'project_stages'),
  ],
};
