import type { Room } from '../http/room';
import { callHandlers } from './routes';

export const calls: Room = {
  name: 'calls',
  routes: [callHandlers],
};
