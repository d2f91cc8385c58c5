import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { mountQueryFiles } from './files';
import { queryHandlers } from './routes';

export const query: Room = {
  name: 'query',
  routes: [queryHandlers],
  files: (app, { tools }) => mountQueryFiles(app, tools),
  tables: [...plain('setting', 'views'), ...plain('ground', 'last_views')],
};
