import type { Room } from '../http/room';
import { mountHistoryFiles } from './files';
import { historyHandlers } from './routes';

export const history: Room = {
  name: 'history',
  routes: [historyHandlers],
  files: (app, { tools }) => mountHistoryFiles(app, tools),
};
