import { refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { mountPeopleFiles } from './files';
import { peopleHandlers } from './routes';

export const people: Room = {
  name: 'people',
  routes: [peopleHandlers],
  files: (app, { tools }) => mountPeopleFiles(app, tools),
  tables: [
    { table: 'people', role: 'record', refers: refersTo('company'), erase: 'keep', export: true },
    {
      table: 'contact_points',
      role: 'part',
      refers: [{ column: 'person_id', to: 'people', unique: ['kind', 'normalized'] }],
      erase: 'delete',
      export: true,
    },
  ],
};
