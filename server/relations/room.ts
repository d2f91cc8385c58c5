import type { Room } from '../http/room';
import { relationHandlers } from './routes';

export const relations: Room = {
  name: 'relations',
  routes: [relationHandlers],
};
