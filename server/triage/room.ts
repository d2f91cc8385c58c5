import type { Room } from '../http/room';
import { triageHandlers } from './routes';

export const triage: Room = {
  name: 'triage',
  routes: [triageHandlers],
};
