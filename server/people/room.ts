import type { Room } from '../http/room';
import { mountPeopleFiles } from './files';
import { peopleHandlers } from './routes';

export const people: Room = {
  name: 'people',
  routes: [peopleHandlers],
  files: (app, { tools }) => mountPeopleFiles(app, tools),
};
