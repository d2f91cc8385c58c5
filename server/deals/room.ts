import type { Room } from '../http/room';
import { dealHandlers } from './routes';

export const deals: Room = {
  name: 'deals',
  routes: [dealHandlers],
};
