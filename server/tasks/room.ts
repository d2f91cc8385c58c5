import type { Room } from '../http/room';
import { taskHandlers } from './routes';

export const tasks: Room = {
  name: 'tasks',
  routes: [taskHandlers],
};
