import type { Room } from '../http/room';
import { searchHandlers } from './routes';

export const search: Room = {
  name: 'search',
  routes: [searchHandlers],
};
