import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { queryHandlers } from './routes';

export const query: Room = {
  name: 'query',
  routes: [queryHandlers],
  tables: [...plain('setting', 'views'), ...plain('ground', 'last_views')],
};
