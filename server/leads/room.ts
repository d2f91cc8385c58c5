import type { Room } from '../http/room';
import { leadHandlers } from './routes';

export const leads: Room = {
  name: 'leads',
  routes: [leadHandlers],
};
